import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dayText } from '@conch/core/calendar'
import { PLACES, type Place } from '@conch/core/house'
import type { Lot } from '@conch/core/lots'
import PDFDocument from 'pdfkit'
import { encode } from 'uqr'

/** A label of an A4 sheet of 24, and the single one: 70 × 37 mm. */
const MM = 72 / 25.4
const WIDTH = 70 * MM
const HEIGHT = 37 * MM
const COLUMNS = 3
const ROWS = 8
const MARGIN = 3 * MM
const QR_SIDE = 21 * MM

const require = createRequire(import.meta.url)
// Static .woff: pdfkit reads neither .woff2 nor variable fonts.
const font = (weight: 400 | 600) =>
  readFileSync(
    require.resolve(
      `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
    ),
  )

/** What stands on one label. */
export interface Label {
  lot: Lot
  house: string
  storedIn: Place
  /** An allergen on the shelf was changed since anybody looked at what is in it. */
  isAllergenUnsure?: boolean
  /** Where the lot's page is: what the code on the label opens. */
  url: string
}

/**
 * Labels as a PDF: one label on a page of its size, or an A4 sheet of 24 with as many as there are.
 * Black on white; name, lot, made, use-by, allergens, and a code that opens the lot.
 */
export async function drawLabels({
  labels,
  isSheet,
}: {
  labels: readonly Label[]
  isSheet: boolean
}): Promise<Uint8Array> {
  const regular = font(400)
  const doc = new PDFDocument({
    size: isSheet ? 'A4' : [WIDTH, HEIGHT],
    margin: 0,
    autoFirstPage: false,
    // A font of our own from the start: the built-in ones are files that the built server does not carry.
    font: regular as never,
    info: { Title: labels.map((l) => `${l.lot.name}, lot ${l.lot.id}`).join('; ') },
  })
  doc.registerFont('regular', regular)
  doc.registerFont('bold', font(600))
  const chunks: Buffer[] = []
  doc.on('data', (chunk: Buffer) => chunks.push(chunk))
  const ended = new Promise<void>((resolve, reject) => {
    doc.on('end', resolve)
    doc.on('error', reject)
  })
  const perPage = isSheet ? COLUMNS * ROWS : 1
  labels.forEach((label, i) => {
    const place = i % perPage
    if (place === 0) doc.addPage()
    drawLabel(doc, label, isSheet ? (place % COLUMNS) * WIDTH : 0, isSheet ? Math.floor(place / COLUMNS) * HEIGHT : 0)
  })
  doc.end()
  await ended
  return new Uint8Array(Buffer.concat(chunks))
}

function drawLabel(
  doc: PDFKit.PDFDocument,
  { lot, house, storedIn, isAllergenUnsure, url }: Label,
  x: number,
  y: number,
): void {
  const left = x + MARGIN
  const width = WIDTH - 3 * MARGIN - QR_SIDE
  const line = (words: string, at: number, options: { size: number; isBold?: boolean; height?: number }) =>
    doc
      .font(options.isBold ? 'bold' : 'regular')
      .fontSize(options.size)
      .fillColor('black')
      .text(words, left, y + at, { width, height: options.height ?? options.size * 1.3, ellipsis: true })
  line(lot.name, MARGIN, { size: 11, isBold: true, height: 31 })
  line(`lot ${lot.id} · ${PLACES[storedIn]}`, 38, { size: 8 })
  line(`made ${dayText(lot.madeOn)}, ${lot.madeBy}`, 49, { size: 8 })
  line(lot.useBy ? `use by ${dayText(lot.useBy)}` : 'no use-by', 60, { size: 10.5, isBold: true })
  const { allergens } = lot.document
  const contains = allergens.length > 0 ? `CONTAINS ${allergens.join(', ')}` : 'no listed allergen'
  line(isAllergenUnsure ? 'ALLERGENS: ASK A MANAGER' : contains, 76, {
    size: 8,
    isBold: isAllergenUnsure || allergens.length > 0,
    height: 20,
  })
  doc
    .font('regular')
    .fontSize(5.5)
    .text(house, x + WIDTH - MARGIN - QR_SIDE, y + MARGIN + QR_SIDE + 2, {
      width: QR_SIDE,
      height: 14,
      align: 'center',
      ellipsis: true,
    })
  drawCode(doc, url, x + WIDTH - MARGIN - QR_SIDE, y + MARGIN)
}

function drawCode(doc: PDFKit.PDFDocument, url: string, x: number, y: number): void {
  const { data, size } = encode(url, { border: 1, ecc: 'M' })
  const side = QR_SIDE / size
  data.forEach((row, r) => {
    row.forEach((isDark, c) => {
      if (isDark) doc.rect(x + c * side, y + r * side, side, side)
    })
  })
  doc.fill('black')
}
