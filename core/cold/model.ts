/**
 * The number of the model of ice and liquid: raised whenever the same drink of the same house comes out
 * with other figures. Locks of editions carry it; figures of another model are compared with what was
 * stored, never computed anew and called wrong.
 */
export const MODEL_VERSION = 3
