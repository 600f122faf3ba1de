import { ScatterChart as Dots, LineChart as Lines } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { chartInk, useChart } from './useChart.ts'

use([Lines, Dots, GridComponent, LegendComponent, TooltipComponent, MarkLineComponent, MarkAreaComponent, SVGRenderer])

interface Dot {
  x: number
  y: number
  name: string
  /** Left out of what is drawn through. */
  isHollow?: boolean
  /** Came later than the line. */
  isNew?: boolean
}

interface SecondsChartProps {
  /** What it shows, for those who do not see it. */
  label: string
  xLabel: string
  yLabel: string
  lines: { name: string; points: [x: number, y: number][] }[]
  dots?: Dot[]
  /** The standard, shaded across. */
  band?: { low: number; high: number } | undefined
  /** Seconds that are in the standard, shaded upright. */
  window?: { lowS: number; highS: number } | undefined
  mark?: { x: number; label: string } | undefined
  height?: number
  /** Where the upright axis begins; left out: as the figures want it. */
  from?: number
}

/** Lines told apart by how they are drawn, not by colour alone. */
const STROKES = ['solid', 'dashed', 'dotted', [10, 3, 2, 3]] as const
const INKS = ['ink', 'melt', 'mind', 'added'] as const

/** Figures against seconds or minutes: several lines over each other, what was measured as dots on top. */
export default function SecondsChart(props: SecondsChartProps) {
  const { lines, dots, band, window, mark, xLabel, yLabel } = props
  const host = useChart(() => optionOf(props), [lines, dots, band, window, mark?.x, mark?.label, xLabel, yLabel])
  return (
    <div ref={host} role="img" aria-label={props.label} className="w-full" style={{ height: props.height ?? 230 }} />
  )
}

function optionOf({ xLabel, yLabel, lines, dots = [], band, window, mark, from }: SecondsChartProps) {
  const { colour, font, axis, tooltip } = chartInk()
  const shade = [
    ...(band ? [[{ yAxis: band.low, itemStyle: { color: colour('band'), opacity: 0.7 } }, { yAxis: band.high }]] : []),
    ...(window
      ? [[{ xAxis: window.lowS, itemStyle: { color: colour('shallow'), opacity: 0.45 } }, { xAxis: window.highS }]]
      : []),
  ]
  const dotsOf = (which: (d: Dot) => boolean) => dots.filter(which).map((d) => ({ value: [d.x, d.y], name: d.name }))
  return {
    animation: false,
    textStyle: { fontFamily: font },
    grid: { left: 50, right: 16, top: lines.length > 1 ? 44 : 26, bottom: 38 },
    legend: {
      show: lines.length > 1,
      top: 0,
      left: 110,
      data: lines.map((l) => l.name),
      textStyle: { color: colour('ink') },
      itemWidth: 34,
      icon: undefined,
    },
    tooltip: {
      ...tooltip,
      trigger: 'item',
      formatter: (p: { seriesName: string; name: string; value: number[] }) =>
        `${p.name || p.seriesName}<br>${p.value.map((v) => v.toFixed(1)).join(' · ')}`,
    },
    xAxis: {
      type: 'value',
      name: xLabel,
      nameLocation: 'middle',
      nameGap: 24,
      min: 0,
      max: Math.max(...lines.map((l) => l.points.at(-1)?.[0] ?? 0), ...dots.map((d) => d.x)),
      ...axis,
      axisLabel: { color: colour('soft'), formatter: (v: number) => String(Number(v.toFixed(1))) },
    },
    yAxis: {
      type: 'value',
      name: yLabel,
      nameTextStyle: { color: colour('soft'), align: 'left', padding: [0, 0, 0, -36] },
      scale: from === undefined,
      ...(from === undefined ? {} : { min: from }),
      axisLine: axis.axisLine,
      axisLabel: axis.axisLabel,
      splitLine: { show: true, lineStyle: { color: colour('shoal') } },
    },
    series: [
      ...lines.map((l, i) => ({
        name: l.name,
        type: 'line',
        showSymbol: false,
        data: l.points,
        lineStyle: { color: colour(INKS[i % INKS.length] as string), width: 2, type: STROKES[i % STROKES.length] },
        itemStyle: { color: colour(INKS[i % INKS.length] as string) },
        ...(i === 0 && shade.length > 0 ? { markArea: { silent: true, data: shade } } : {}),
        ...(i === 0 && mark
          ? {
              markLine: {
                silent: true,
                symbol: 'none',
                lineStyle: { color: colour('soft'), type: 'dotted' },
                label: { color: colour('ink'), formatter: mark.label },
                data: [{ xAxis: mark.x }],
              },
            }
          : {}),
      })),
      {
        name: 'trial',
        type: 'scatter',
        symbolSize: 9,
        data: dotsOf((d) => !d.isHollow && !d.isNew),
        itemStyle: { color: colour('ink') },
      },
      {
        name: 'newer trial',
        type: 'scatter',
        symbol: 'diamond',
        symbolSize: 12,
        data: dotsOf((d) => !d.isHollow && d.isNew === true),
        itemStyle: { color: colour('stop') },
      },
      {
        name: 'left out',
        type: 'scatter',
        symbolSize: 9,
        data: dotsOf((d) => d.isHollow === true),
        itemStyle: { color: colour('paper'), borderColor: colour('soft'), borderWidth: 1.5 },
      },
    ],
  }
}
