import { mayDo, type SaidFinding } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { VERSION_KINDS } from '@conch/core/lineage'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { sheetAddress } from '../compare/index.ts'
import { DecideDialog } from '../next/index.ts'
import { AskDialog, FromDialog, SourceDialog, WithdrawDialog } from './FindingDialogs.tsx'
import { type LineageNode, sourcesOf, whatText, whenText } from './lineageView.ts'
import { RestoreButton } from './RestoreButton.tsx'
import { RiffDialog } from './RiffDialog.tsx'
import { SourceCard } from './SourceCard.tsx'

interface NodeDetailsProps {
  node: LineageNode
  nodes: readonly LineageNode[]
  findings: readonly SaidFinding[]
  /** The drink whose lineage this is has a draft. */
  hasDraft: boolean
  onPick: (key: string) => void
}

/** Everything that is known of one version, and what can be done with it. */
export function NodeDetails({ node, nodes, findings, hasDraft, onPick }: NodeDetailsProps) {
  const { book, clock } = useHouse()
  const who = useWho()
  const [withdrawn, setWithdrawn] = useState<SaidFinding>()
  const { version, isRelative } = node
  const mayWrite = mayDo(who.role, 'saveVersion')
  const from = nodes.filter((n) => node.parents.includes(n.key))
  const into = nodes.filter((n) => n.parents.includes(node.key))
  const sources = sourcesOf(version, findings)
  const kind = version.origin && VERSION_KINDS[version.origin.kind]
  const what = whatText(version)
  return (
    <section aria-label="This version">
      <h2 className="flex flex-wrap items-center gap-x-3 text-xl">
        {node.isPoured && <Seal size={20} title="poured today" />}
        <span className="break-words">
          {isRelative ? `${node.name}, version ${version.number}` : `Version ${version.number}`}
          {what && ` · ${what}`}
        </span>
      </h2>
      <p className="caption">
        {[
          kind !== what && kind,
          whenText(version),
          version.source,
          `written down by ${version.savedBy}, ${nightText(version.savedAt, clock)}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {version.reason && <p className="mt-1">“{version.reason}”</p>}
      <Links words="made from" of={from} onPick={onPick} />
      <Links words="led to" of={into} onPick={onPick} />
      <Acts {...{ node, nodes, hasDraft }} />
      {sources.length > 0 && (
        <>
          <h3 className="mt-4 mb-1 text-base">Where it was found</h3>
          <ul className="space-y-2">
            {sources.map((of, i) => (
              <SourceCard
                key={i}
                of={of}
                document={version.document}
                book={book}
                added={of.finding && `added by ${of.finding.savedBy}, ${nightText(of.finding.savedAt, clock)}`}
                onWithdraw={mayWrite && of.finding ? () => setWithdrawn(of.finding) : undefined}
              />
            ))}
          </ul>
        </>
      )}
      {withdrawn && <WithdrawDialog finding={withdrawn} onClose={() => setWithdrawn(undefined)} />}
    </section>
  )
}

function Links({ words, of, onPick }: { words: string; of: readonly LineageNode[]; onPick: (key: string) => void }) {
  if (of.length === 0) return null
  return (
    <p className="mt-1 text-sm">
      <span className="text-soft">{words}</span>{' '}
      {of.map((n) => (
        <button
          key={n.key}
          type="button"
          className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
          onClick={() => onPick(n.key)}
        >
          {n.isRelative ? `${n.name}, v${n.version.number}` : `v${n.version.number}`}
          {whatText(n.version) && ` ${whatText(n.version)}`}
        </button>
      ))}
    </p>
  )
}

/** What can be done with a version. */
function Acts({ node, nodes, hasDraft }: Pick<NodeDetailsProps, 'node' | 'nodes' | 'hasDraft'>) {
  const who = useWho()
  const [open, setOpen] = useState<'pour' | 'riff' | 'source' | 'from' | 'ask'>()
  const { version, isRelative } = node
  const { drink, number } = version
  const close = () => setOpen(undefined)
  // Held against what is poured; what is poured against what it came from.
  const other = node.isPoured && !isRelative ? undefined : nodes.find((n) => n.isPoured && !n.isRelative)
  const beside = other ?? nodes.find((n) => node.parents.includes(n.key))
  const pair = [beside, node].flatMap((n) => (n ? [n.key] : []))
  const mayWrite = mayDo(who.role, 'saveVersion')
  return (
    <div className="no-print mt-2 flex flex-wrap items-center gap-1">
      <Link className="act" to={`/drinks/${drink}?v=${number}`}>
        Open
      </Link>
      {pair.length > 1 && (
        <Link className="act" to={sheetAddress(pair)}>
          Compare with {beside?.isPoured && !beside.isRelative ? 'what is poured' : 'what it came from'}
        </Link>
      )}
      {isRelative && (
        <Link className="act" to={`/drinks/${drink}/lineage`}>
          Its own lineage
        </Link>
      )}
      {mayWrite && (
        <>
          {!isRelative && !node.isPlanned && (
            <button type="button" className="act" onClick={() => setOpen('pour')}>
              Put on the next menu …
            </button>
          )}
          <button type="button" className="act" onClick={() => setOpen('riff')}>
            Riff on it …
          </button>
          {!isRelative && <RestoreButton node={node} hasDraft={hasDraft} />}
          <button type="button" className="act act-quiet" onClick={() => setOpen('source')}>
            Add a source …
          </button>
          <button type="button" className="act act-quiet" onClick={() => setOpen('from')}>
            It comes from …
          </button>
          <button type="button" className="act act-quiet" onClick={() => setOpen('ask')}>
            Still to research …
          </button>
        </>
      )}
      {open === 'pour' && (
        <DecideDialog
          drink={{ slug: drink, name: node.name }}
          version={number}
          instead={nodes.find((n) => n.isPlanned && !n.isRelative)?.version.number}
          onClose={close}
        />
      )}
      {open === 'riff' && <RiffDialog node={node} onClose={close} />}
      {open === 'source' && <SourceDialog version={version} onClose={close} />}
      {open === 'from' && <FromDialog node={node} onClose={close} />}
      {open === 'ask' && <AskDialog version={version} onClose={close} />}
    </div>
  )
}
