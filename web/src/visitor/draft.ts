import type { Words } from '@zusammen/core/forms/hosted';
import { answersIn, ownName } from './answers.ts';

const GOOD_FOR_MS = 24 * 3_600_000;

interface Kept {
  at: number;
  answers: Record<string, string | string[]>;
  /** What was issued for it: sent again after a reload, it is still the same submission. */
  shown: string;
}

/** What somebody has filled in and not sent yet, for a day in this browser; never what is sensitive. */
export class Draft {
  private readonly key: string;

  constructor(
    path: string,
    private readonly sensitive: ReadonlySet<string>,
  ) {
    this.key = `form ${path}`;
  }

  keep(root: HTMLFormElement): void {
    const answers = Object.fromEntries(
      Object.entries(answersIn(root)).filter(
        ([name, said]) => !this.sensitive.has(ownName(name)) && [said].flat().some((each) => each !== ''),
      ),
    );
    const kept: Kept = { at: Date.now(), answers, shown: shownOf(root)?.value ?? '' };
    // A browser may have no room, or keep nothing for a page in a frame.
    attempt(() => window.localStorage.setItem(this.key, JSON.stringify(kept)));
  }

  /** What was kept, where it isn't too old. */
  read(): Kept['answers'] | undefined {
    const kept = this.held();
    return kept && Date.now() - kept.at < GOOD_FOR_MS && Object.keys(kept.answers).length > 0
      ? kept.answers
      : undefined;
  }

  forget(): void {
    attempt(() => window.localStorage.removeItem(this.key));
  }

  /** Says that something was filled in before, and lets it go. */
  tell(root: HTMLFormElement, words: Words): void {
    const shown = shownOf(root);
    const kept = this.held();
    if (shown && kept && kept.shown !== '') shown.value = kept.shown;
    const line = document.createElement('p');
    line.className = 'restored';
    line.setAttribute('role', 'status');
    line.append(words.restored, ' ');
    const anew = document.createElement('button');
    anew.type = 'button';
    anew.className = 'plain';
    anew.textContent = words.forget;
    anew.addEventListener('click', () => {
      this.forget();
      window.location.reload();
    });
    line.append(anew);
    root.prepend(line);
  }

  private held(): Kept | undefined {
    const text = attempt(() => window.localStorage.getItem(this.key));
    const kept = text ? attempt(() => JSON.parse(text) as Kept) : undefined;
    return kept && typeof kept.at === 'number' && typeof kept.answers === 'object' ? kept : undefined;
  }
}

const shownOf = (root: HTMLFormElement): HTMLInputElement | null => root.querySelector('input[name="_shown"]');

function attempt<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch {
    return undefined;
  }
}
