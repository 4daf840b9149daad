import { SIGNED_ON, type FilledLine } from '@zusammen/core/forms/hosted';
import PDFDocument from 'pdfkit';
import { inFaces } from './fonts.ts';

/** A filled-in form as it is put on paper. */
export interface FilledForm {
  title: string;
  /** BCP 47. */
  language: string;
  lines: readonly FilledLine[];
  /** What stands at the foot of every page: number, moment, version. */
  foot: string;
  /** What stands for an answer that was left blank. */
  blank: string;
}

const INK = '#231f1a';
const SOFT = '#6b6358';
const HAIR = '#e2dbcd';
const MARGIN = 56;
const FOOT = 40;
/** Characters of one answer on paper; more are cut, and said to be. */
const MOST_SHOWN = 5_000;
const MOST_PAGES = 60;

/**
 * A form as somebody filled it in, as a PDF: tagged, with a language and a title, so that it is read aloud in order (ISO
 * 14289-1, without claiming conformance), and with fonts of its own.
 */
export function filledPdf({ title, language, lines, foot, blank }: FilledForm): Promise<Buffer> {
  const document = new PDFDocument({
    ...{ size: 'A4', margins: { top: MARGIN, left: MARGIN, right: MARGIN, bottom: MARGIN + FOOT } },
    ...{ tagged: true, lang: language, displayTitle: true, pdfVersion: '1.7', bufferPages: true },
    info: { Title: title, Producer: 'Zusammen', Creator: 'Zusammen' },
  });
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    document.on('data', (chunk: Buffer) => chunks.push(chunk));
    document.on('end', () => resolve(Buffer.concat(chunks)));
    document.on('error', reject);
  });
  const whole = document.struct('Document');
  document.addStructure(whole);
  const write = (tag: string, text: string, look: Look): void => {
    const shown = text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)} …` : text;
    whole.add(document.struct(tag, {}, () => written(document, shown, look)));
  };
  const draw = (label: string, strokes: string, indent: number): void => {
    if (document.y > document.page.height - MARGIN - FOOT - 80) document.addPage();
    whole.add(document.struct('Figure', { alt: label }, () => drawn(document, strokes, indent)));
  };
  write('H1', title, { weight: 700, size: 20, after: 14 });
  for (const line of lines) {
    if (document.bufferedPageRange().count >= MOST_PAGES) break;
    if (line.kind === 'answer') {
      const indent = line.depth * 14;
      // A question and its answer stay together.
      if (document.y > document.page.height - MARGIN - FOOT - 50) document.addPage();
      write('P', line.label, { weight: 700, size: 9, colour: SOFT, indent, after: 1 });
      write('P', line.value === '' ? blank : line.value, { weight: 400, size: 11.5, indent, after: 9 });
      if (line.drawn !== undefined) draw(line.label, line.drawn, indent);
    } else write(line.kind === 'row' ? 'H3' : 'H2', line.text, HEADINGS[line.kind]);
  }
  whole.end();
  footed(document, foot);
  document.end();
  return done;
}

interface Look {
  weight: 400 | 700;
  size: number;
  colour?: string;
  indent?: number;
  before?: number;
  after: number;
}

const HEADINGS: Record<'page' | 'heading' | 'row', Look> = {
  page: { weight: 700, size: 15, before: 12, after: 8 },
  heading: { weight: 700, size: 12.5, before: 10, after: 6 },
  row: { weight: 700, size: 10, colour: SOFT, before: 4, after: 4, indent: 14 },
};

function written(
  document: PDFKit.PDFDocument,
  text: string,
  { weight, size, colour = INK, indent = 0, before = 0, after }: Look,
): void {
  const left = MARGIN + indent;
  const width = document.page.width - left - MARGIN;
  document.fillColor(colour).fontSize(size);
  const pieces = inFaces(text, weight);
  pieces.forEach((piece, at) => {
    document.registerFont(piece.face.name, piece.face.file).font(piece.face.name);
    const options = { width, lineGap: 2, continued: at < pieces.length - 1 };
    if (at === 0) document.text(piece.text, left, document.y + before, options);
    else document.text(piece.text, options);
  });
  document.y += after;
}

/** Points of a signature on paper for one on the screen. */
const SIGNED_SCALE = 0.35;

/** A signature as it was drawn: lines between whole numbers. */
function drawn(document: PDFKit.PDFDocument, strokes: string, indent: number): void {
  const top = document.y;
  document
    .save()
    .translate(MARGIN + indent, top)
    .scale(SIGNED_SCALE)
    .path(strokes)
    .lineWidth(3)
    .lineCap('round')
    .lineJoin('round')
    .strokeColor(INK)
    .stroke()
    .restore();
  document.y = top + SIGNED_ON.height * SIGNED_SCALE + 9;
}

/** What stands at the foot of every page, with its number: nothing that is read aloud again and again. */
function footed(document: PDFKit.PDFDocument, foot: string): void {
  const { count } = document.bufferedPageRange();
  for (let page = 0; page < count; page += 1) {
    document.switchToPage(page);
    const { width, height } = document.page;
    // Beneath the margin, where text would begin another page.
    document.page.margins.bottom = 0;
    document.markContent('Artifact', { type: 'Pagination' });
    document
      .moveTo(MARGIN, height - MARGIN - 14)
      .lineTo(width - MARGIN, height - MARGIN - 14)
      .lineWidth(0.5)
      .strokeColor(HAIR)
      .stroke();
    document.fontSize(8.5).fillColor(SOFT);
    let at = MARGIN;
    for (const piece of inFaces(`${foot}   ${page + 1}/${count}`, 400)) {
      document.registerFont(piece.face.name, piece.face.file).font(piece.face.name);
      document.text(piece.text, at, height - MARGIN - 6, { lineBreak: false });
      at += document.widthOfString(piece.text);
    }
    document.endMarkedContent();
  }
}
