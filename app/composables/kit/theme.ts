export type Look = 'system' | 'light' | 'dark'

/** The look that this device was set to: that of the system, unless somebody chose. */
export const useLook = () => useLocalStorage<Look>('ridgeway.look', 'system')
