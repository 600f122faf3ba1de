import { toast } from 'sonner'

const TAKE_BACK_WITHIN_MS = 10_000

/** Drops a draft, and offers for a while to take that back. */
export function dropWithWayBack(drop: () => Promise<() => void>, onBack?: () => void): void {
  drop().then(
    (takeBack) =>
      toast('The draft is dropped.', {
        duration: TAKE_BACK_WITHIN_MS,
        action: {
          label: 'Take it back',
          onClick: () => {
            takeBack()
            onBack?.()
          },
        },
      }),
    (error: Error) => toast.error(error.message),
  )
}
