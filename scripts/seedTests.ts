/**
 * Properties are tried with the same cases every time: a change that fails is the change's fault. Other cases are looked
 * for with another number in `CONCH_SEED`.
 */

import fc from 'fast-check'

fc.configureGlobal({ seed: Number(process.env.CONCH_SEED ?? 20_260_901) })
