import { hasAllWords } from '@conch/core/text'
import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'
import { measureText } from './format.ts'
import { layersOf, spreadLabels } from './glassGeometry.ts'
import { HandTrend } from './HandTrend.tsx'
import { Window } from './Window.tsx'

afterEach(cleanup)

const cylinder = [
  { heightMm: 0, radiusMm: 30 },
  { heightMm: 100, radiusMm: 30 },
]
const fill = {
  brimMl: 283,
  heightMm: 100,
  washLineMm: 60,
  washLinePct: 60,
  overflowMl: 0,
  iceBottomMm: 0,
  iceTopMm: 70,
  iceAboveBrimMl: 0,
  isPacked: false,
}

describe('the glass section', () => {
  it('stacks the strata to the wash line, each by its share', () => {
    const layers = layersOf(cylinder, { fill, strata: { pouredMl: 60, meltMl: 30, addedInGlassMl: 0, floatMl: 10 } })
    expect(layers.map((l) => l.kind)).toEqual(['poured', 'melt', 'float'])
    expect(layers.map((l) => Math.round(l.toMm))).toEqual([36, 54, 60])
    expect(layers[0]?.fromMm).toBe(0)
  })

  it('keeps its labels apart, in order, and on the picture', () => {
    const placed = spreadLabels([{ y: 50 }, { y: 48 }, { y: 99 }, { y: 98 }], 15, 100)
    expect(placed.map((l) => l.y)).toEqual([48, 50, 98, 99])
    placed.slice(1).forEach((l, i) => {
      expect(l.at - (placed[i]?.at ?? 0)).toBeGreaterThanOrEqual(15)
    })
    expect(placed[3]?.at).toBeLessThanOrEqual(100)
  })
})

describe('the window', () => {
  const predicted = { value: 17, low: 16.5, high: 17.5 }
  it('says in words what it shows', () => {
    render(<Window measure="strengthPct" predicted={predicted} band={{ low: 15, high: 18 }} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      'strength 17.0 %, inside the standard (15.0 % to 18.0 %)',
    )
  })
  it('turns to an arrow where the mark is off the scale', () => {
    const { container } = render(
      <Window measure="strengthPct" predicted={{ value: 40, low: 39, high: 41 }} band={{ low: 15, high: 18 }} />,
    )
    expect(container.querySelector('svg')?.dataset.standing).toBe('above')
    expect(container.querySelector('path[d*="l-6 -5v10z"]')).not.toBeNull()
  })
  it('without a standard shows the figure alone', () => {
    render(<Window measure="dilutionPct" predicted={predicted} band={undefined} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe('dilution 17 %, no standard set')
  })
})

describe('figures as they are written', () => {
  it('keep honest decimals and a true minus', () => {
    expect(measureText('temperatureC', -2.34)).toBe('−2.3 °C')
    expect(measureText('temperatureC', -0.01)).toBe('0.0 °C')
    expect(measureText('volumeMl', 149.73)).toBe('150 ml')
  })
})

describe('finding by words', () => {
  it('wants every word, in any order, without minding accents', () => {
    expect(hasAllWords('Dry curaçao liqueur', 'liq curacao')).toBe(1)
    expect(hasAllWords('Falernum with alcohol', 'rum')).toBe(0)
    expect(hasAllWords('Orlop White white column rum', 'rum orl')).toBe(1)
    expect(hasAllWords('anything', '')).toBe(1)
  })
})

describe('the trend of a hand', () => {
  const point = (value: number, half: number) => ({ label: '9 Nov', value, low: value - half, high: value + half })
  const drawn = (points: readonly ReturnType<typeof point>[]) => {
    const { container } = render(<HandTrend points={points} />)
    const [line] = [...container.querySelectorAll('path')].map((p) =>
      Number(/ ([\d.]+)H/.exec(p.getAttribute('d') ?? '')?.[1]),
    )
    return {
      lineY: line as number,
      at: [...container.querySelectorAll('circle')].map((c) => Number(c.getAttribute('cy'))),
      whiskers: [...container.querySelectorAll('g > path')]
        .map((p) => p.getAttribute('d') ?? '')
        .filter((d) => /V/.test(d)),
      words: [...container.querySelectorAll('text')].map((t) => t.textContent),
    }
  }

  it('stands above the line for too much and below it for too little, on one scale', () => {
    const { lineY, at, whiskers, words } = drawn([point(8, 3), point(0, 2), point(-4, 1)])
    const [much, right, little] = at as [number, number, number]
    expect(right).toBeCloseTo(lineY, 6)
    expect((lineY - much) / (little - lineY)).toBeCloseTo(2, 6)
    // Ends of the first whisker: 5 and 11 of 11 %.
    const [low, high] = (whiskers[0] ?? '')
      .replace(/^M\S+ /, '')
      .split('V')
      .map(Number) as [number, number]
    expect((lineY - low) / (lineY - high)).toBeCloseTo(5 / 11, 6)
    expect(words).toEqual(['+11 %', '−11 %', 'right', '9 Nov'])
  })

  it('does not make a good hand look bad: the scale is never finer than five of a hundred', () => {
    expect(drawn([point(0.2, 0.4), point(0.1, 0.4)]).words).toContain('+5 %')
  })
})
