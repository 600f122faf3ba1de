import { mayDo } from '@conch/contract'
import { handNow, sittingsIn } from '@conch/core/learn'
import { useQuery } from '@tanstack/react-query'
import { useWho } from '../../app/who.ts'
import { practiceQuery } from './practice.ts'

/** The hand of whoever is here, as their test pours measured it; undefined: not measured. */
export function useOwnHand() {
  const isOne = mayDo(useWho().role, 'practise')
  const own = useQuery({ ...practiceQuery, enabled: isOne }).data
  return own && handNow(sittingsIn(own))
}
