import { useTheme } from 'vuetify'

/** The colours of the theme that is shown, for what draws by itself; `share` from 0 to 1 is how much of it covers what lies below. */
export function useColors() {
  const theme = useTheme()
  return (name: string, share = 1): string => {
    const hex = String(theme.current.value.colors[name] ?? '')
    return share === 1 ? hex : `${hex}${Math.round(share * 255).toString(16).padStart(2, '0')}`
  }
}
