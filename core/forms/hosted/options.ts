import type { HostedOption } from './model.ts';
import { say } from './say.ts';

/** Options as somebody pastes them: one a line, `value;label` or the label alone, also out of a sheet (with tabs). */

const MOST_OPTIONS = 1000;
const MOST_VALUE = 200;
const MOST_LABEL = 400;

export type ReadOptions = { ok: true; options: HostedOption[] } | { ok: false; reason: string };

/**
 * Reads options in one language; what the same ones are called in others is kept.
 * @param known the options that there were
 */
export function readOptions(text: string, language: string, known: readonly HostedOption[] = []): ReadOptions {
  const before = new Map(known.map((option) => [option.value, option]));
  const options: HostedOption[] = [];
  const seen = new Set<string>();
  const lines = text.slice(0, MOST_OPTIONS * (MOST_VALUE + MOST_LABEL)).split(/\r\n|\r|\n/);
  for (const [at, line] of lines.entries()) {
    if (line.trim() === '') continue;
    const cut = line.search(/[;\t]/);
    const value = (cut < 0 ? line : line.slice(0, cut)).trim();
    const label = (cut < 0 ? line : line.slice(cut + 1)).trim() || value;
    const here = `Line ${at + 1}`;
    if (value === '') return { ok: false, reason: `${here} says what is shown, and not what is sent.` };
    if (value.length > MOST_VALUE) return { ok: false, reason: `${here} is longer than ${MOST_VALUE} characters.` };
    if (label.length > MOST_LABEL) return { ok: false, reason: `${here} shows more than ${MOST_LABEL} characters.` };
    if (seen.has(value)) return { ok: false, reason: `“${value}” is there twice, again in line ${at + 1}.` };
    if (options.length === MOST_OPTIONS) return { ok: false, reason: `There are more than ${MOST_OPTIONS}.` };
    seen.add(value);
    options.push({ value, label: { ...before.get(value)?.label, [language]: label } });
  }
  return options.length === 0 ? { ok: false, reason: 'There has to be at least one.' } : { ok: true, options };
}

/** Options as a text that `readOptions` reads. */
export const writeOptions = (
  options: readonly HostedOption[],
  language: string,
  languages: readonly string[],
): string =>
  options
    .map(({ value, label }) => {
      const shown = say(label, language, languages) || value;
      return shown === value && !/[;\t]/.test(value) ? value : `${value};${shown}`;
    })
    .join('\n');
