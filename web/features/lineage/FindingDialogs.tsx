import { type SaidFinding, saidFindingSchema, type Version } from '@conch/contract'
import type { Finding } from '@conch/core/lineage'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { DRINKS_KEY } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { VersionPicker } from '../../shelf/VersionPicker.tsx'
import { SourceFields } from '../../sources/SourceFields.tsx'
import { NO_SOURCE, sourceForm, toSource } from '../../sources/sourceForm.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import type { LineageNode } from './lineageView.ts'

/** Writes something down about a version that is saved. */
function useFinding({ drink, number }: Pick<Version, 'drink' | 'number'>, onDone: () => void) {
  const queryClient = useQueryClient()
  return async (finding: Finding) => {
    await api.post(`/api/drinks/${drink}/versions/${number}/findings`, formOf(saidFindingSchema), finding)
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    onDone()
  }
}

/** A source that was found after the version was saved. */
export function SourceDialog({ version, onClose }: { version: Version; onClose: () => void }) {
  const say = useFinding(version, onClose)
  const form = useSending(sourceForm, NO_SOURCE, (values) => say({ kind: 'source', source: toSource(values) }))
  return (
    <Dialog
      isOpen
      onClose={onClose}
      title={`A source of version ${version.number}`}
      lead="The version stays as it is; the source stands beside it. Sources may contradict each other."
    >
      <FormProvider {...form.all}>
        <form onSubmit={form.submit}>
          <SourceFields />
          {form.problem && <p className="mb-2 text-sm text-stop">{form.problem}</p>}
          <DialogButtons close="Not yet" onClose={onClose} main="Add it" isBusy={form.isBusy} />
        </form>
      </FormProvider>
    </Dialog>
  )
}

interface WordsDialogProps {
  title: string
  lead?: string
  label: string
  hint?: string
  unsaid: string
  most: number
  main: string
  onClose: () => void
  onWords: (words: string) => Promise<unknown>
}

/** Asks for a sentence. */
function WordsDialog({ title, lead, label, hint, unsaid, most, main, onClose, onWords }: WordsDialogProps) {
  const schema = z.object({ words: z.string().trim().min(3, unsaid) })
  const form = useSending(schema, { words: '' }, ({ words }) => onWords(words))
  return (
    <Dialog isOpen onClose={onClose} title={title} lead={lead}>
      <form onSubmit={form.submit}>
        <Field label={label} hint={hint} error={form.errorOf('words') ?? form.problem}>
          {(props) => <textarea {...props} rows={2} maxLength={most} {...form.register('words')} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main={main} isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}

/** It turned out later that a version comes from another. */
export function FromDialog({ node, onClose }: { node: LineageNode; onClose: () => void }) {
  const { version, name } = node
  const say = useFinding(version, onClose)
  const [error, setError] = useState<string>()
  const here = { drink: version.drink, version: version.number }
  return (
    <Dialog
      isOpen
      onClose={onClose}
      title={`What version ${version.number} comes from`}
      lead="Versions never change: that it comes from another is written down beside it."
    >
      <VersionPicker
        drink={{ slug: version.drink, name }}
        without={[here, ...version.parents]}
        main="It comes from this"
        onPick={(from) => {
          setError(undefined)
          say({ kind: 'from', from }).catch((e: Error) => setError(e.message))
        }}
      />
      {error && (
        <p role="alert" className="mt-2 text-sm text-stop">
          {error}
        </p>
      )}
      <div className="mt-4 flex justify-end">
        <button type="button" className="act" onClick={onClose}>
          Not yet
        </button>
      </div>
    </Dialog>
  )
}

/** Something is still to be found out about a version. */
export function AskDialog({ version, onClose }: { version: Version; onClose: () => void }) {
  const say = useFinding(version, onClose)
  return (
    <WordsDialog
      title={`Still to research about version ${version.number}`}
      label="What is to be found out"
      hint="It stands in the list of everything that is to be found out until somebody answers it."
      unsaid="Say what is to be found out."
      most={300}
      main="Mark it"
      onClose={onClose}
      onWords={(asks) => say({ kind: 'question', asks })}
    />
  )
}

/** What was found out about a question. */
export function AnswerDialog({ question, onClose }: { question: SaidFinding; onClose: () => void }) {
  const say = useFinding(question, onClose)
  const { document } = question
  return (
    <WordsDialog
      title="What was found out"
      {...(document.kind === 'question' ? { lead: document.asks } : {})}
      label="The answer"
      unsaid="Say what was found out."
      most={1000}
      main="Write it down"
      onClose={onClose}
      onWords={(says) => say({ kind: 'answer', question: question.id, says })}
    />
  )
}

/** A word that was a mistake: it counts no more, and stays in the history. */
export function WithdrawDialog({ finding, onClose }: { finding: SaidFinding; onClose: () => void }) {
  const say = useFinding(finding, onClose)
  return (
    <WordsDialog
      title="Was it a mistake?"
      lead="It is not shown any more; that it was there, and why it went, stays in the history of the house."
      label="Why"
      unsaid="Say in a few words why."
      most={300}
      main="Take it back"
      onClose={onClose}
      onWords={(why) => say({ kind: 'withdrawn', finding: finding.id, why })}
    />
  )
}
