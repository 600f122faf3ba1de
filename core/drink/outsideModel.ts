import { DOMAIN, type StageRefusal } from '../cold/index.ts'
import { COLDEST_FREEZING_POINT_C } from '../liquid/index.ts'
import type { Problem } from './problem.ts'

const seconds = (s: number) => (s < 0.05 ? 'at once' : `after ${s < 10 ? s.toFixed(1) : Math.round(s)} s`)
const minus = (c: number) => (c < -150 ? 'far lower' : `${c < 0 ? '−' : ''}${Math.abs(c).toFixed(1)} °C`)

/** A stage that the model says nothing about, in a sentence: which limit it passes, how far, and what would help. */
export function outsideModel({ passed, atS }: StageRefusal): string {
  switch (passed.limit) {
    case 'freezingPoint':
      return `the liquid is too strong or too sweet beside ice: by the formula it freezes at ${minus(passed.freezingPointC)}, and below −${-COLDEST_FREEZING_POINT_C} °C nobody knows how ice melts in it; pour it without ice, or with more that is not strong`
    case 'hot':
      return `the liquid is ${passed.temperatureC.toFixed(0)} °C ${seconds(atS)}; the model ends at ${DOMAIN.hottestC} °C: less work, or fewer seconds`
    case 'solid':
      return `it freezes solid ${seconds(atS)}: less than ${100 * DOMAIN.leastWaterFraction} % of its water is left; warmer ice, or more liquid`
    case 'steps':
      return `it could not be computed beyond ${atS.toFixed(1)} s; with so little liquid beside so much conductance nothing is known`
  }
}

/** As a problem of the document, at its stage; of the glass after them all. */
export function stageProblem(refusal: StageRefusal, stage: number | 'glass'): Problem {
  return { path: stage === 'glass' ? ['glass'] : ['stages', stage], message: outsideModel(refusal) }
}
