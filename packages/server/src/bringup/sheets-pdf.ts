import { bringup, rig, show as core, type Show } from '@deep-patch/core';
import PDFDocument from 'pdfkit';
import QRCode from 'qrcode';

type Doc = InstanceType<typeof PDFDocument>;
type Step = bringup.BringUpStep;

const margin = 48;
const page = { width: 595.28, height: 841.89 };
const qrSize = 84;
const ink = '#17313a';
const quiet = '#47616b';
const line = '#cfc8b4';

/**
 * The work at each unit as one page (A4), in the order in which units come, with a code that opens the unit's next step on
 * the sheet. What is to be keyed in stands in the same figures as on the screen; passwords stand nowhere.
 */
export function sheetsPdf(show: Show, plan: bringup.BringUp, sheetUrl: string, compress = true): Doc {
  const doc = new PDFDocument({
    size: 'A4',
    margin,
    autoFirstPage: false,
    compress,
    info: { Title: `${show.name}: bring-up` },
  });
  const byUnit = core.groupBy(
    plan.steps.filter(({ kind }) => kind !== 'computer'),
    ({ deviceId }) => deviceId,
  );
  if (byUnit.size === 0) doc.addPage().font('Helvetica').fontSize(12).text('Nothing is left to set.');
  for (const [deviceId, steps] of byUnit) unitPage(doc, { show, plan, deviceId, steps, sheetUrl });
  doc.end();
  return doc;
}

interface UnitPage {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly deviceId: string;
  readonly steps: readonly Step[];
  readonly sheetUrl: string;
}

function unitPage(doc: Doc, { show, plan, deviceId, steps, sheetUrl }: UnitPage): void {
  const device = show.devices[deviceId];
  const type = core.typeOf(show, device);
  doc.addPage();
  const [first] = steps;
  if (first) drawCode(doc, `${sheetUrl}/${encodeURIComponent(first.key)}`, page.width - margin - qrSize, margin);
  const width = page.width - margin * 2 - qrSize - 16;
  doc
    .fillColor(ink)
    .font('Helvetica-Bold')
    .fontSize(20)
    .text(said(device?.name ?? ''), margin, margin, { width });
  const about = [type?.name, device?.place, type && rig.waysWords(type)].filter(Boolean).join(' · ');
  doc.font('Helvetica').fontSize(10).fillColor(quiet).text(said(about), { width });
  doc.y = Math.max(doc.y, margin + qrSize) + 14;
  doc.x = margin;
  for (const step of steps) stepBlock(doc, show, plan, step);
}

function stepBlock(doc: Doc, show: Show, plan: bringup.BringUp, step: Step): void {
  const words = bringup.stepWords(show, plan, step);
  const width = page.width - margin * 2 - 24;
  if (doc.y > page.height - margin - 120) doc.addPage();
  const top = doc.y;
  doc
    .rect(margin, top + 2, 10, 10)
    .lineWidth(1)
    .strokeColor(ink)
    .stroke();
  doc
    .fillColor(ink)
    .font('Helvetica-Bold')
    .fontSize(12)
    .text(said(words.title), margin + 24, top, { width });
  doc.font('Helvetica').fontSize(9).fillColor(quiet).text(said(words.where), { width });
  for (const { label, value, was } of bringup.figuresOf(step)) {
    if (doc.y > page.height - margin - 40) doc.addPage();
    const at = doc.y + 4;
    doc
      .font('Helvetica')
      .fontSize(9)
      .fillColor(quiet)
      .text(said(label), margin + 24, at + 3, { width: 110 });
    const below = doc.y;
    doc
      .font('Courier-Bold')
      .fontSize(value.length > 30 ? 9 : 14)
      .fillColor(ink);
    doc.text(said(value), margin + 140, at, { width: 250 });
    const right = doc.y;
    if (was !== '')
      doc
        .font('Helvetica')
        .fontSize(9)
        .fillColor(quiet)
        .text(said(`was ${was}`), margin + 400, at + 3, { width: 100 });
    doc.y = Math.max(below, right, doc.y);
  }
  doc.x = margin + 24;
  for (const note of bringup.stepNotes(show, plan, step, Date.now()))
    doc.font('Helvetica').fontSize(9).fillColor(ink).text(said(note), { width });
  if (words.then !== '') doc.font('Helvetica-Oblique').fontSize(9).fillColor(ink).text(said(words.then), { width });
  doc
    .font('Helvetica')
    .fontSize(8)
    .fillColor(quiet)
    .text(said(`Why here: ${words.why}`), { width });
  const end = doc.y + 8;
  doc
    .moveTo(margin, end)
    .lineTo(page.width - margin, end)
    .lineWidth(0.5)
    .strokeColor(line)
    .stroke();
  doc.y = end + 10;
  doc.x = margin;
}

/** The modules of a QR code as squares: a drawing is sharp at any size. */
function drawCode(doc: Doc, text: string, left: number, top: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const size = qrSize / modules.size;
  doc.fillColor('#000000');
  for (let row = 0; row < modules.size; row += 1)
    for (let column = 0; column < modules.size; column += 1)
      if (modules.get(row, column)) doc.rect(left + column * size, top + row * size, size + 0.02, size + 0.02);
  doc.fill();
}

/** What the fonts of every PDF reader have (WinAnsi, ISO 32000-1 annex D); anything else is shown as a question mark. */
const said = (text: string): string =>
  text.replace(/[^\x20-\x7e\u00a0-\u00ff\u2013\u2014\u2018\u2019\u201c\u201d\u2022\u2026\u20ac]/gu, '?');
