import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { create, type Font } from 'fontkit';

/** A face of which only the letters of some scripts are there. */
export interface Face {
  name: string;
  file: Buffer;
  has: (character: string) => boolean;
}

const SCRIPTS = [
  ['atkinson-hyperlegible-next', 'latin'],
  ['atkinson-hyperlegible-next', 'latin-ext'],
  ['noto-sans', 'greek'],
  ['noto-sans', 'cyrillic'],
  ['noto-sans', 'vietnamese'],
] as const;

const known = new Map<400 | 700, Face[]>();

/** Our fonts in a weight: the interface's own, and another one for letters that it lacks. The first that has one shows it. */
export function facesOf(weight: 400 | 700): Face[] {
  const read = known.get(weight);
  if (read) return read;
  const require = createRequire(join(process.cwd(), 'package.json'));
  const faces = SCRIPTS.map(([family, script]): Face => {
    const file = readFileSync(require.resolve(`@fontsource/${family}/files/${family}-${script}-${weight}-normal.woff`));
    const font = create(file) as Font;
    return {
      name: `${family} ${script} ${weight}`,
      file,
      has: (character) => font.hasGlyphForCodePoint(character.codePointAt(0)!),
    };
  });
  known.set(weight, faces);
  return faces;
}

/** A text in pieces that one face can show; what none has is shown as a box. */
export function inFaces(text: string, weight: 400 | 700): { face: Face; text: string }[] {
  const faces = facesOf(weight);
  const pieces: { face: Face; text: string }[] = [];
  for (const character of text) {
    const last = pieces.at(-1);
    const isSpace = /\s/.test(character);
    const found = faces.find((face) => face.has(character));
    const face = (isSpace || !found) && last ? last.face : (found ?? faces[0]!);
    const shown = found || isSpace ? character : '\u25a1';
    if (last && last.face === face) last.text += shown;
    else pieces.push({ face, text: shown });
  }
  return pieces;
}
