import { type OutMarkSaid, outMarkSchema, type Tonight, tonightChoiceSchema } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import type { OutDocument } from '@conch/core/schema/tonight'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { toast } from 'sonner'
import { z } from 'zod'
import { takeBack, tap } from '../alone/tap.ts'
import { api } from '../app/api.ts'
import { useHouse } from '../app/house.tsx'
import { tonightQuery } from '../app/queries.ts'
import { whereWords } from './words.ts'

/** What is said, for whoever looks later what waits. */
const sayingWords = ({ level, well }: OutDocument, name: string, wells: HouseBook['wells']) =>
  `${name} ${level === 'out' ? 'is out' : 'runs low'} ${whereWords(well, wells)}`

/** The place on this device of what is only said here so far: its number is less than none. */
export const placeOfOut = (id: number): number | undefined => (id < 0 ? -id : undefined)

const ended = z.object({ ended: z.number() })
const said = (error: unknown) => toast(error instanceof Error ? error.message : String(error))
/** How long a wrong tap can be taken back from where one tapped. */
const UNDO_MS = 8_000

/** What is out, what was chosen, and the words that change it. */
export function useOuts() {
  const client = useQueryClient()
  const { wells } = useHouse().book
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
    const end = (id: number, name: string, why: 'back' | 'mistake') =>
      tap(
        {
          kind: 'outEnd',
          path: `/api/outs/${id}/end`,
          body: { why },
          name,
          words: why === 'back' ? `${name} is back` : `${name}: that was a wrong tap`,
        },
        ended,
      )
    const say = (out: OutDocument, name: string) =>
      tap({ kind: 'out', path: '/api/outs', body: out, name, words: sayingWords(out, name, wells) }, outMarkSchema)
    /** Says that it was done, or that it is kept; with a way back. */
    const tell = (words: string, isKept: boolean, undo: () => Promise<unknown>) =>
      toast(isKept ? `${words} Kept here, and sent when the house is heard.` : words, {
        duration: UNDO_MS,
        action: { label: 'Undo', onClick: () => void tryTo(async () => void (await undo())) },
      })
    return {
      /** @param name what it is called, for the word that is shown */
      mark: (out: OutDocument, name: string) =>
        tryTo(async () => {
          const made = await say(out, name)
          tell(`${name} ${out.level === 'out' ? 'is out' : 'runs low'}.`, 'kept' in made, () =>
            'kept' in made ? takeBack(made.kept) : end(made.done.id, name, 'mistake'),
          )
        }),
      back: ({ id, name, kind, of, well, level }: OutMarkSaid) =>
        tryTo(async () => {
          const words = level === 'out' ? `${name} is back.` : `There is enough of ${name} again.`
          const again = { kind, of, well, level }
          const place = placeOfOut(id)
          if (place !== undefined) {
            // It was only said here: then nobody ever said it.
            await takeBack(place)
            tell(words, false, () => say(again, name))
            return
          }
          const done = await end(id, name, 'back')
          tell(words, 'kept' in done, () => ('kept' in done ? takeBack(done.kept) : say(again, name)))
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
  }, [client, wells])
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
