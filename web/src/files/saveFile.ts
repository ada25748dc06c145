/** Hands a file to the browser to save, under a name without signs that file systems refuse. */
export function saveFile(name: string, content: Blob) {
  const url = URL.createObjectURL(content)
  const link = document.createElement('a')
  link.href = url
  link.download = name.replace(/[\\/:*?"<>|]/g, '-')
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 1000)
}
