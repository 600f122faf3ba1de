/** Density of pure ethanol at 20 °C, g/ml. OIML R 22. */
export const PURE_ETHANOL_G_PER_ML = 0.789239

/** Density of pure water at 20 °C, g/ml. OIML R 22, p = 0. */
export const WATER_G_PER_ML = 0.9982012

/**
 * Apparent specific volumes in solution at 20 °C, ml/g. Sugar: fits true densities of sucrose
 * solutions within 0.6 % up to 55 °Bx and 0.9 % up to 65. Acid: citric. Fat: a nut or milk fat, density 0.92.
 * Other: proteins, salts, fibre and minerals together, taken as sugar's.
 */
export const SPECIFIC_VOLUME_ML_PER_G = { sugar: 0.619, acid: 0.6, fat: 1.087, other: 0.62 } as const

/** Molar masses, g/mol. */
export const MOLAR_MASS_G = { water: 18.015, ethanol: 46.069, sucrose: 342.3, citric: 192.1 } as const

/** Heat capacities of what is not ethanol and water, J/(g·K). */
export const HEAT_CAPACITY_J_PER_G_K = { water: 4.19, dissolved: 1.35, fat: 2.0, ice: 2.07 } as const

/** Latent heat of melting of ice at 0 °C, J/g. */
export const LATENT_HEAT_J_PER_G = 333.55

/** Density of ice, g/ml. */
export const ICE_G_PER_ML = 0.917
