/** `325` → `3.25`; null → an en dash. */
export function formatGpa(value: number | null): string {
  return value === null ? '–' : (value / 100).toFixed(2)
}
