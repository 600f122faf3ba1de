export function LearnPage() {
  return null
}
