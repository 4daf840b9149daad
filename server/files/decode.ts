import { analyse } from 'chardet';

/** Encodings a file may be guessed to have; what else is guessed is too rare to be believed of a short file. */
const LIKELY = new Set(['windows-1252', 'windows-1250', 'ISO-8859-1', 'ISO-8859-2', 'UTF-16LE', 'UTF-16BE', 'UTF-8']);

export interface Decoded {
  text: string;
  /** As the Encoding Standard names it. */
  encoding: string;
  /** It had to be guessed from the letters. */
  guessed: boolean;
}

/**
 * Decodes a text file: by its byte order mark, else as UTF-8 when it is valid UTF-8, else by what its letters look
 * like (windows-1252 for western, windows-1250 for central European files).
 */
export function decode(bytes: Uint8Array): Decoded {
  const marked =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : undefined;
  if (marked) return { text: new TextDecoder(marked).decode(bytes), encoding: marked, guessed: false };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'utf-8', guessed: false };
  } catch {
    const encoding = guess(bytes);
    return { text: new TextDecoder(encoding).decode(bytes), encoding, guessed: true };
  }
}

function guess(bytes: Uint8Array): string {
  const head = bytes.subarray(0, 200_000);
  // Between the two windows code pages, the letters of Polish and Czech words decide what statistics can't.
  const western = new TextDecoder('windows-1252').decode(head);
  const central = new TextDecoder('windows-1250').decode(head);
  const polish = count(central, /[ąćęłńśźżĄĆĘŁŃŚŹŻěščřžůťďňĚŠČŘŽ]/g);
  const latin = count(western, /[äöüßéèêàçñáíóúôîÄÖÜÉ]/g);
  if (polish !== latin) return polish > latin ? 'windows-1250' : 'windows-1252';
  const best = analyse(head).find(({ name }) => LIKELY.has(name))?.name ?? 'windows-1252';
  return best === 'ISO-8859-1' ? 'windows-1252' : best === 'ISO-8859-2' ? 'windows-1250' : best.toLowerCase();
}

const count = (text: string, letters: RegExp): number => text.match(letters)?.length ?? 0;
