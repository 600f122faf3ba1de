import { drinkSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api } from '../../app/api.ts'
import { NameDialog } from '../../app/NameDialog.tsx'
import { DRINKS_KEY } from '../../app/queries.ts'
import type { LineageNode } from './lineageView.ts'

/** A riff becomes a drink of its own, and keeps where it came from. */
export function RiffDialog({ node: { version, name }, onClose }: { node: LineageNode; onClose: () => void }) {
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (called: string) => {
    const riffOf = { drink: version.drink, version: version.number }
    const drink = await api.post('/api/drinks', formOf(drinkSchema), { name: called, riffOf })
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    navigate(`/drinks/${drink.slug}?v=draft`)
  }
  return (
    <NameDialog
      title={`A riff on ${name}`}
      lead={`It begins with what version ${version.number} pours, as a drink of its own: both can stand on one menu.`}
      unnamed="Give it a name; it can be changed later."
      onClose={onClose}
      onName={make}
    />
  )
}
