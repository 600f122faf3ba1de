export { useAloneSince } from './line.ts'
export { useOnDraft } from './present.ts'
export { useLive } from './useLive.ts'
