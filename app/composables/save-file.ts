/** Saves a text as a file of this device, as if it had been fetched. */
export function saveFile(name: string, type: string, text: string | Uint8Array) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text as BlobPart], { type }))
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
