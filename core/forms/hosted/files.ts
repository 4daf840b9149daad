/** Files that visitors send along, and what they draw as a signature. */

/** Sorts of files by what they are for, each with its media types (IANA) and the ends of their names. Nothing that runs. */
export const FILE_SORTS = {
  picture: {
    types: ['image/jpeg', 'image/png', 'image/webp', 'image/gif', 'image/heic', 'image/avif'],
    ends: '.jpg,.jpeg,.png,.webp,.gif,.heic,.avif',
  },
  pdf: { types: ['application/pdf'], ends: '.pdf' },
  document: {
    types: [
      'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
      'application/vnd.oasis.opendocument.text',
      'application/rtf',
    ],
    ends: '.docx,.odt,.rtf',
  },
  sheet: {
    types: [
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'application/vnd.oasis.opendocument.spreadsheet',
    ],
    ends: '.xlsx,.ods',
  },
  text: { types: ['text/plain'], ends: '.txt,.csv' },
} as const;
export type FileSort = keyof typeof FILE_SORTS;
export const FILE_SORT_NAMES = Object.keys(FILE_SORTS) as FileSort[];

/** Of each file, in mebibytes. */
export const MOST_MEBIBYTES = 10;
/** What a question takes where its form says nothing. */
export const USUAL_SORTS: FileSort[] = ['picture', 'pdf'];

/** Characters of what speaks for a file that was kept. */
export const MOST_FILE_TOKEN = 600;

/** Under which name a file's own name goes on: `photo` is its address, `photo_name` what it was called. */
export const fileName = (name: string): string => name.replace(/\]?$/, (end) => `_name${end}`);

/** Under which name goes on what somebody drew when they signed: `signed` is their name as typed. */
export const drawnName = (name: string): string => name.replace(/\]?$/, (end) => `_drawn${end}`);

/** The size of what a signature is drawn on, in its own units. */
export const SIGNED_ON = { width: 600, height: 180 } as const;
const MOST_STROKES = 20_000;

/** Whether a text is strokes as the page's script draws them: an SVG path of straight lines between whole numbers. */
export const areStrokes = (text: string): boolean =>
  text.length <= MOST_STROKES && /^M\d{1,3} \d{1,3}(?:[ML]\d{1,3} \d{1,3})*$/.test(text);

const DRAWN = new RegExp(
  `^<svg xmlns="http://www\\.w3\\.org/2000/svg" viewBox="0 0 ${SIGNED_ON.width} ${SIGNED_ON.height}"><path d="([ML\\d ]+)" `,
);

/** What was drawn, as a picture: nothing of it but numbers comes from the visitor. */
export const drawnPicture = (strokes: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${SIGNED_ON.width} ${SIGNED_ON.height}"><path d="${strokes}" fill="none" stroke="#231f1a" stroke-width="3" stroke-linecap="round" stroke-linejoin="round"/></svg>`;

/** The strokes of a picture of ours; undefined where it is none. */
export const strokesOf = (picture: string): string | undefined => DRAWN.exec(picture)?.[1];
