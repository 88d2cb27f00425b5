/** Has the browser keep a file. */
export function saveFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** A table as CSV. What a spreadsheet would take for a formula is marked as text. */
export function csvOf(rows: (string | number)[][]): string {
  const cell = (value: string | number): string => {
    if (typeof value === 'number') return String(value)
    const plain = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value
    return /[",\n\r]/.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain
  }
  return rows.map((row) => row.map(cell).join(',')).join('\r\n') + '\r\n'
}

/** A drawing as it stands, with nothing that it would need from outside. */
export function svgOf(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const { width, height } = drawing.getBoundingClientRect()
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(Math.round(width)))
  copy.setAttribute('height', String(Math.round(height)))
  return new XMLSerializer().serializeToString(copy)
}

/** A drawing as a picture, twice as fine as on the screen, on a ground of a colour. */
export async function pngOf(drawing: SVGSVGElement, ground: string): Promise<Blob> {
  const { width, height } = drawing.getBoundingClientRect()
  return pngOfText({ svg: svgOf(drawing), width, height }, ground)
}

/** The same of a drawing as text, of so many pixels. */
export async function pngOfText(
  { svg, width, height }: { svg: string; width: number; height: number },
  ground: string,
): Promise<Blob> {
  const picture = new Image()
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
  await picture.decode()
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(width * 2)
  canvas.height = Math.round(height * 2)
  const pen = canvas.getContext('2d')
  if (!pen) throw new Error('This browser cannot draw pictures.')
  pen.fillStyle = ground
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(picture, 0, 0, canvas.width, canvas.height)
  return new Promise((done, fail) =>
    canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error('The picture could not be made.')))),
  )
}

/** What a card shows, to be saved: its drawing, where there is one, and the table behind it. */
export interface Shown {
  svg?: SVGSVGElement | null
  table?: { columns: string[]; rows: (string | number)[][] }
}

/** Saves what a card shows, under a name without its ending; a picture on a ground of a colour. */
export async function saveShown(
  as: 'PNG' | 'SVG' | 'CSV',
  name: string,
  { svg, table }: Shown,
  ground: string,
): Promise<void> {
  const file = `${name}.${as.toLowerCase()}`
  if (as === 'CSV') {
    if (table) saveFile(file, new Blob([csvOf([table.columns, ...table.rows])], { type: 'text/csv' }))
  } else if (svg && as === 'SVG') saveFile(file, new Blob([svgOf(svg)], { type: 'image/svg+xml' }))
  else if (svg) saveFile(file, await pngOf(svg, ground))
}
