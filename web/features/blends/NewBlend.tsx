import type { Recipe } from '@conch/core/formula'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { NameDialog } from '../../app/NameDialog.tsx'
import { useFirstThings } from '../../app/shelf.ts'
import { makeBlend } from './makeBlend.ts'

interface NewBlendProps {
  /** Left out: the first two spirits of the shelf, to begin with. */
  recipe?: Recipe
  /** What to do with it besides opening its page. */
  onMade?: (slug: string) => void
  onClose: () => void
}

/** Names a blend; its parts are cut on its own page. */
export function NewBlend({ recipe, onMade, onClose }: NewBlendProps) {
  const begin = useFirstThings({ shown: 'spirit', limit: 2 })
  const [isSealed, setSealed] = useState(false)
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (name: string) => {
    const spirits = recipe ? [] : await begin()
    const first: Recipe = {
      by: 'partsByVolume',
      components: spirits.map((ingredient) => ({ ingredient, amount: 1 })),
    }
    const slug = await makeBlend(name, recipe ?? first, queryClient, isSealed ? { isSealed: true } : {})
    if (onMade) onMade(slug)
    else navigate(`/blends/${slug}`)
  }
  return (
    <NameDialog
      title="New blend"
      lead="Under a code name, so that a bottle on the bar tells nothing."
      main="Make it"
      onClose={onClose}
      onName={make}
    >
      <label className="mb-3 flex items-center gap-2">
        <input type="checkbox" checked={isSealed} onChange={(e) => setSealed(e.target.checked)} />
        sealed: only managers see what is in it
      </label>
    </NameDialog>
  )
}
