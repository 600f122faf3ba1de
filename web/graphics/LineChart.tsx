import { LineChart as Lines } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { chartInk, useChart } from './useChart.ts'

use([Lines, GridComponent, TooltipComponent, MarkLineComponent, MarkAreaComponent, SVGRenderer])

interface Series {
  name: string
  unit: string
  points: [x: number, y: number][]
}

interface LineChartProps {
  /** What it shows, for those who do not see it. */
  label: string
  xLabel: string
  left: Series
  right: Series
  /** The standard of the left axis, shaded. */
  band?: { low: number; high: number } | undefined
  /** What the shaded band is, in words. */
  bandNote?: string
  mark: number
  markLabel: string
}

/** The chart in the package's words, in the colours of the theme that is shown. */
function optionOf({ xLabel, left, right, band, mark, markLabel }: Omit<LineChartProps, 'label' | 'bandNote'>) {
  const { colour, font, axis, tooltip } = chartInk()
  return {
    animation: false,
    textStyle: { fontFamily: font },
    grid: { left: 46, right: 50, top: 28, bottom: 36 },
    tooltip: {
      ...tooltip,
      trigger: 'axis',
      valueFormatter: (v: unknown) => (typeof v === 'number' ? v.toFixed(1) : String(v)),
    },
    xAxis: {
      type: 'value',
      name: xLabel,
      nameLocation: 'middle',
      nameGap: 22,
      min: 0,
      max: left.points[left.points.length - 1]?.[0],
      ...axis,
    },
    yAxis: [
      {
        type: 'value',
        name: `${left.name}, ${left.unit}`,
        min: 0,
        ...axis,
        splitLine: { show: true, lineStyle: { color: colour('shoal') } },
      },
      { type: 'value', name: `${right.name}, ${right.unit}`, ...axis },
    ],
    series: [
      {
        name: `${left.name}, ${left.unit}`,
        type: 'line',
        showSymbol: false,
        data: left.points,
        lineStyle: { color: colour('ink'), width: 2 },
        itemStyle: { color: colour('ink') },
        ...(band
          ? {
              markArea: {
                silent: true,
                itemStyle: { color: colour('band'), opacity: 0.7 },
                label: { color: colour('standard'), formatter: 'standard', position: 'insideRight' },
                data: [[{ yAxis: band.low }, { yAxis: band.high }]],
              },
            }
          : {}),
        markLine: {
          silent: true,
          symbol: 'none',
          lineStyle: { color: colour('soft'), type: 'dotted' },
          label: { color: colour('ink'), formatter: markLabel },
          data: [{ xAxis: mark }],
        },
      },
      {
        name: `${right.name}, ${right.unit}`,
        type: 'line',
        yAxisIndex: 1,
        showSymbol: false,
        data: right.points,
        lineStyle: { color: colour('melt'), width: 2, type: 'dashed' },
        itemStyle: { color: colour('melt') },
      },
    ],
  }
}

/** Two figures against time on two axes: one line drawn through, one broken, so that colour is not needed. */
export default function LineChart({ label, xLabel, left, right, band, bandNote, mark, markLabel }: LineChartProps) {
  const host = useChart(
    () => optionOf({ xLabel, left, right, band, mark, markLabel }),
    [xLabel, left, right, band, mark, markLabel],
  )
  return (
    <figure>
      <div ref={host} role="img" aria-label={label} className="h-[190px] w-full" />
      <figcaption className="caption">
        solid: {left.name}; dashed: {right.name}
        {band ? `; shaded: ${bandNote ?? 'the standard'}` : ''}
      </figcaption>
    </figure>
  )
}
