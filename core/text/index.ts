/** Text as people type and read it. */

/** Without capitals and accents, as people type: "Curaçao" → "curacao". */
export const plainText = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()

/** Whether every word of a search is in a text: 1 or 0. Letters scattered through a name are no find. */
export function hasAllWords(text: string, search: string): 0 | 1 {
  const plain = plainText(text)
  return plainText(search)
    .trim()
    .split(/\s+/)
    .every((word) => plain.includes(word))
    ? 1
    : 0
}

/** Whether some word of a name, or the whole of it, begins so. Nothing begins with nothing. */
export function beginsWith(name: string, letters: string): boolean {
  const wanted = plainText(letters).trim()
  if (wanted === '') return false
  const plain = plainText(name)
  return plain.startsWith(wanted) || plain.split(/[^a-z0-9]+/).some((word) => word.startsWith(wanted))
}
