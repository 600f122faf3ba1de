type Keys<T extends object> = [keyof T & string, ...(keyof T & string)[]]

/** The keys of a list, each as one of them: for an enum, or to show one after the other. */
export const keysOf = <T extends object>(o: T) => Object.keys(o) as Keys<T>
