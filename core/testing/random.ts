/** Normal numbers from a seed: the same in every run. Mulberry32 and Box–Muller. */
import { seededRandom } from '../solve/index.ts'

export function anyNormal(seed: number): () => number {
  const { normal } = seededRandom(seed)
  return normal
}
