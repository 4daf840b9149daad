import { analyse } from 'chardet';
import { decodedAs } from '../charset.ts';

/** Encodings a file may be guessed to have; what else is guessed is too rare to be believed of a short file. */
const LIKELY = new Set(['windows-1252', 'windows-1250', 'ISO-8859-1', 'ISO-8859-2', 'UTF-16LE', 'UTF-16BE', 'UTF-8']);

export interface Decoded {
  text: string;
  /** As the Encoding Standard names it. */
  encoding: string;
  /** It had to be guessed from the letters. */
  guessed: boolean;
  /** Stands for bytes that are none of the encoding, where there are any. */
  spoilt?: string;
}

const SPOILT = '\uFFFD';

/**
 * Decodes a text file: by its byte order mark, else as UTF-8 when it is UTF-8 but for a few bytes, else by what its
 * letters look like (windows-1252 for western, windows-1250 for central European files).
 */
export function decode(bytes: Uint8Array): Decoded {
  const marked =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : undefined;
  if (marked) return { text: new TextDecoder(marked).decode(bytes), encoding: marked, guessed: false };
  const whole = decodedAs(bytes, 'utf-8');
  if (whole) return { ...whole, guessed: false };
  const lenient = new TextDecoder('utf-8').decode(bytes);
  if (isMostlyUtf8(lenient)) return { text: lenient, encoding: 'utf-8', guessed: false, spoilt: SPOILT };
  const { text, encoding } = decodedAs(bytes, guess(bytes))!;
  return { text, encoding, guessed: true };
}

/** Letters beyond ASCII that came out well, against one that didn't: in another encoding hardly any would. */
const WELL_AGAINST_SPOILT = 4;

function isMostlyUtf8(text: string): boolean {
  let well = 0;
  let spoilt = 0;
  for (const letter of text) {
    if (letter === SPOILT) spoilt += 1;
    else if (letter > '\u007f') well += 1;
  }
  return well >= spoilt * WELL_AGAINST_SPOILT;
}

function guess(bytes: Uint8Array): string {
  const head = bytes.subarray(0, 200_000);
  // Between the two windows code pages, the letters of Polish and Czech words decide what statistics can't.
  const western = decodedAs(head, 'windows-1252')!.text;
  const central = decodedAs(head, 'windows-1250')!.text;
  const polish = count(central, /[ąćęłńśźżĄĆĘŁŃŚŹŻěščřžůťďňĚŠČŘŽ]/g);
  const latin = count(western, /[äöüßéèêàçñáíóúôîÄÖÜÉ]/g);
  if (polish !== latin) return polish > latin ? 'windows-1250' : 'windows-1252';
  const best = analyse(head).find(({ name }) => LIKELY.has(name))?.name ?? 'windows-1252';
  return best === 'ISO-8859-1' || best === 'UTF-8'
    ? 'windows-1252'
    : best === 'ISO-8859-2'
      ? 'windows-1250'
      : best.toLowerCase();
}

const count = (text: string, letters: RegExp): number => text.match(letters)?.length ?? 0;
