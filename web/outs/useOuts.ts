import { type OutMarkSaid, outMarkSchema, type Tonight, tonightChoiceSchema } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import type { OutDocument } from '@conch/core/schema/tonight'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../app/api.ts'
import { tonightQuery } from '../app/queries.ts'

const ended = z.object({ ended: z.number() })
const said = (error: unknown) => toast(error instanceof Error ? error.message : String(error))
/** How long a wrong tap can be taken back from where one tapped. */
const UNDO_MS = 8_000

/** What is out, what was chosen, and the words that change it. */
export function useOuts() {
  const client = useQueryClient()
  const { data: tonight, error, refetch } = useQuery(tonightQuery)
  const acts = useMemo(() => {
    const again = () => client.invalidateQueries({ queryKey: tonightQuery.queryKey })
    const tryTo = async (work: () => Promise<void>) => {
      try {
        await work()
      } catch (error) {
        said(error)
      } finally {
        await again()
      }
    }
    const end = (id: number, why: 'back' | 'mistake') => api.post(`/api/outs/${id}/end`, ended, { why })
    const say = (out: OutDocument) => api.post('/api/outs', outMarkSchema, out)
    return {
      /** @param name what it is called, for the word that is shown */
      mark: (out: OutDocument, name: string) =>
        tryTo(async () => {
          const made = await say(out)
          toast(`${name} ${out.level === 'out' ? 'is out' : 'runs low'}.`, {
            duration: UNDO_MS,
            action: { label: 'Undo', onClick: () => void tryTo(async () => void (await end(made.id, 'mistake'))) },
          })
        }),
      back: ({ id, name, kind, of, well, level }: OutMarkSaid) =>
        tryTo(async () => {
          await end(id, 'back')
          toast(level === 'out' ? `${name} is back.` : `There is enough of ${name} again.`, {
            duration: UNDO_MS,
            action: {
              label: 'Undo',
              onClick: () => void tryTo(async () => void (await say({ kind, of, well, level }))),
            },
          })
        }),
      /** @returns whether it was chosen */
      choose: async (
        drink: { slug: string; name: string },
        choice: { well: string | null; kind: 'instead' | 'off'; document?: DrinkDocument; words: string },
      ): Promise<boolean> => {
        try {
          const sees = newestFor(client.getQueryData(tonightQuery.queryKey), drink.slug, choice.well)
          const made = await api.post(`/api/drinks/${drink.slug}/tonight`, tonightChoiceSchema, { ...choice, sees })
          toast(
            choice.kind === 'off' ? `${drink.name} is off tonight.` : `${drink.name} is poured like this tonight.`,
            {
              duration: UNDO_MS,
              action: {
                label: 'Undo',
                onClick: () =>
                  void tryTo(
                    async () => void (await api.post(`/api/tonight/choices/${made.id}/end`, ended, undefined)),
                  ),
              },
            },
          )
          return true
        } catch (error) {
          said(error)
          return false
        } finally {
          await again()
        }
      },
      endChoice: (id: number) =>
        tryTo(async () => void (await api.post(`/api/tonight/choices/${id}/end`, ended, undefined))),
    }
  }, [client])
  return { tonight, error, refetch, ...acts }
}

/** The newest choice for a drink at just this place. */
const newestFor = (tonight: Tonight | undefined, drink: string, well: string | null): number | null =>
  tonight?.choices.filter((c) => c.drink === drink && c.well === well).at(-1)?.id ?? null

/** How a drink of the menu stands at a well; `undefined` where it is simply made. */
export function useStands(drink: string, well: string) {
  const tonight = useQuery(tonightQuery).data
  const at = tonight?.drinks.find((d) => d.drink === drink)?.at[well]
  const choice = at?.choice === undefined ? undefined : tonight?.choices.find((c) => c.id === at.choice)
  return { at, choice }
}
