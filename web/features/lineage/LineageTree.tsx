import type { HouseBook } from '@conch/core/house'
import { layOutTree, type PlacedNode, type Tree, type TreeEdge } from '@conch/core/lineage'
import { useEffect, useId, useMemo, useRef } from 'react'
import { PartPatterns, PartsLegend, Proportions, segmentsOf, volumeMlOf } from '../../graphics/Proportions.tsx'
import { Seal } from '../../graphics/Seal.tsx'
import { type LineageNode, nodeTowards, spokenText, whatText, whenText } from './lineageView.ts'

const STEP = 124
const COLUMN = 24
const TALL = 72
/** From one lane to the next. */
const LANE = 156
/** Over the first lane: the years. */
const TOP = 26
const BASE = TOP + TALL + 4
const LEFT = 14

const xOf = (column: number) => column * STEP + LEFT + COLUMN / 2
const yOf = (lane: number) => lane * LANE + BASE

interface LineageTreeProps {
  nodes: readonly LineageNode[]
  book: HouseBook
  /** The key of the node whose words are shown. */
  picked: string | undefined
  onPick: (key: string) => void
}

/**
 * How a drink came to be: time to the right, a lane for each branch, each version a column of its proportions for one serve
 * on a common scale.
 */
export function LineageTree({ nodes, book, picked, onPick }: LineageTreeProps) {
  const id = useId()
  const room = useRef<HTMLDivElement>(null)
  const trunk = nodes.find((n) => n.isPoured && !n.isRelative)?.key
  const tree = useMemo(() => layOutTree(nodes, trunk), [nodes, trunk])
  const segments = useMemo(
    () => new Map(nodes.map((n) => [n.key, segmentsOf(n.version.document, book)])),
    [nodes, book],
  )
  const mostMl = Math.max(60, ...[...segments.values()].map(volumeMlOf))
  const nameOf = (key: string) => {
    const node = nodes.find((n) => n.key === key)
    return node && `${node.isRelative ? `${node.name} ` : ''}version ${node.version.number}`
  }
  useEffect(() => {
    if (!room.current || picked === undefined) return
    const button = room.current.querySelector<HTMLElement>(`[data-node="${CSS.escape(picked)}"]`)
    const place = button?.parentElement
    if (!place) return
    room.current.scrollLeft = place.offsetLeft - room.current.clientWidth / 2 + STEP / 2
    // Of many branches the one that is looked at is seen.
    const isSeen =
      place.offsetTop >= room.current.scrollTop &&
      place.offsetTop + LANE <= room.current.scrollTop + room.current.clientHeight
    if (!isSeen) room.current.scrollTop = place.offsetTop - TOP
  }, [picked])
  const onKeyDown = (event: React.KeyboardEvent) => {
    const from = (event.target as HTMLElement).dataset.node
    const next = from && nodeTowards(tree.nodes, from, event.key)
    if (!next) return
    event.preventDefault()
    onPick(next)
    room.current?.querySelector<HTMLElement>(`[data-node="${CSS.escape(next)}"]`)?.focus()
  }
  const width = tree.nodes.length * STEP + LEFT
  const height = tree.laneCount * LANE + TOP
  const first = picked ?? tree.nodes[0]?.node.key
  return (
    <div>
      <section ref={room} aria-label="Lineage" className="max-h-[62vh] overflow-auto border-b border-hair">
        <ol className="relative" style={{ width, height }} aria-label="Versions, in time" onKeyDown={onKeyDown}>
          <svg
            width={width}
            height={height}
            className="pointer-events-none absolute top-0 left-0 z-10"
            aria-hidden="true"
          >
            <PartPatterns id={id} />
            <Times tree={tree} height={height} />
            <Edges tree={tree} />
            {tree.nodes.map(({ node, column, lane }) => (
              <g key={node.key} transform={`translate(${xOf(column) - COLUMN / 2} ${yOf(lane)})`}>
                <Proportions
                  segments={segments.get(node.key) ?? []}
                  patterns={id}
                  mostMl={mostMl}
                  tall={TALL - 2}
                  width={COLUMN}
                  isMarked={node.key === picked}
                />
                <circle
                  cx={COLUMN / 2}
                  r={node.key === picked ? 4 : 2.5}
                  fill={node.key === picked ? 'var(--ink)' : 'var(--paper)'}
                  stroke="var(--ink)"
                />
              </g>
            ))}
          </svg>
          {tree.nodes.map((placed) => (
            <Node
              key={placed.node.key}
              placed={placed}
              isPicked={placed.node.key === picked}
              isFirst={placed.node.key === first}
              spoken={spokenText(placed.node, nameOf)}
              onPick={onPick}
            />
          ))}
        </ol>
      </section>
      <div className="mt-1 flex flex-wrap items-center gap-x-6 gap-y-1">
        <PartsLegend id={id} />
        <p className="caption">time to the right, not to scale · dashed: it went in, too · dotted: another drink</p>
      </div>
    </div>
  )
}

interface NodeProps {
  placed: PlacedNode<LineageNode>
  isPicked: boolean
  /** The one that a Tab leads to. */
  isFirst: boolean
  spoken: string
  onPick: (key: string) => void
}

function Node({ placed: { node, column, lane }, isPicked, isFirst, spoken, onPick }: NodeProps) {
  const { version, isRelative } = node
  return (
    <li className="absolute" style={{ left: column * STEP, top: lane * LANE + TOP, width: STEP, height: LANE - 4 }}>
      <button
        type="button"
        data-node={node.key}
        tabIndex={isFirst ? 0 : -1}
        aria-current={isPicked}
        aria-label={spoken}
        title={spoken}
        onClick={() => onPick(node.key)}
        className={`block size-full text-left hover:bg-shoal ${isPicked ? 'bg-shoal' : ''}`}
        // The picture lies on top of it.
        style={{ paddingLeft: LEFT }}
      >
        <span className="block" style={{ height: TALL + 10 }}>
          <span className="flex flex-col items-start gap-1 pt-1" style={{ paddingLeft: COLUMN + 6 }}>
            {node.isPoured && <Seal size={17} title="poured today" />}
            {node.isPlanned && !node.isPoured && (
              <span className="border border-ink px-1 text-[11px] leading-4">next</span>
            )}
          </span>
        </span>
        <span className="line-clamp-2 pr-2 text-sm leading-tight font-semibold">
          {isRelative ? node.name : `v${version.number}`}{' '}
          <span className="font-normal">{isRelative ? `v${version.number}` : whatText(version)}</span>
        </span>
        <span className="caption block truncate pr-2">{whenText(version)}</span>
      </button>
    </li>
  )
}

/** The decades along the top, where another one begins. */
function Times({ tree, height }: { tree: Tree<LineageNode>; height: number }) {
  const decadeOf = ({ node: { years } }: PlacedNode<LineageNode>) => {
    const year = years?.fromYear ?? years?.toYear
    return year === undefined ? undefined : `${Math.floor(year / 10) * 10}s`
  }
  let last: string | undefined
  return tree.nodes.map((placed) => {
    const decade = decadeOf(placed)
    if (decade === undefined || decade === last) return null
    last = decade
    const x = placed.column * STEP + 4
    return (
      <g key={placed.node.key}>
        <line x1={x} x2={x} y1={0} y2={height} stroke="var(--hair)" strokeDasharray="1 4" />
        <text x={x + 4} y={14} fontSize={12} fill="var(--soft)">
          {decade}
        </text>
      </g>
    )
  })
}

function Edges({ tree }: { tree: Tree<LineageNode> }) {
  const placed = new Map(tree.nodes.map((n) => [n.node.key, n]))
  return tree.edges.map((edge) => {
    const from = placed.get(edge.from)
    const to = placed.get(edge.to)
    if (!from || !to) return null
    return (
      <path
        key={`${edge.from} ${edge.to}`}
        d={pathOf(from, to, tree)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.3}
        strokeDasharray={dashOf(edge)}
      />
    )
  })
}

const dashOf = ({ isMerger, isRiff }: TreeEdge) => (isRiff ? '1.500 3' : isMerger ? '5 3' : undefined)

/** A line that changes lanes in the gap between two columns, where no words stand. */
function pathOf(from: PlacedNode, to: PlacedNode, { nodes }: Tree): string {
  const [x0, y0, x1, y1] = [xOf(from.column), yOf(from.lane), xOf(to.column), yOf(to.lane)]
  if (y0 === y1) {
    const isBetween = nodes.some((n) => n.lane === from.lane && n.column > from.column && n.column < to.column)
    // Under what stands between them.
    return isBetween ? `M${x0} ${y0}C${x0 + 20} ${y0 + 9} ${x1 - 20} ${y0 + 9} ${x1} ${y1}` : `M${x0} ${y0}H${x1}`
  }
  const isFree = !nodes.some((n) => n.lane === to.lane && n.column > from.column && n.column < to.column)
  // As soon as it leaves, on the new lane; where that is taken, along the old one.
  const gap = (isFree ? (from.column + 1) * STEP : to.column * STEP) + 5
  const bend = Math.min(8, Math.abs(y1 - y0) / 2) * Math.sign(y1 - y0)
  const along = isFree || to.column === from.column + 1 ? y0 : y0 + 5
  return `M${x0} ${y0}L${x0 + 8} ${along}H${gap - 8}Q${gap} ${along} ${gap} ${along + bend}V${y1 - bend}Q${gap} ${y1} ${gap + 8} ${y1}H${x1}`
}
