/** Text as people type and read it. */

/** Without capitals and accents, as people type: "Curaçao" → "curacao". */
export const plainText = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
