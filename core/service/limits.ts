/** More glasses are two rounds: nobody keeps nine in their head. */
export const MOST_GLASSES = 8
/** No tin and no jar of a bar is for more of one drink. */
export const MOST_IN_ONE = 6
/** Oftener nobody fills a mixer for one bowl. */
export const MOST_GOES = 4
