import {
  amountText,
  readAnswers,
  toPay,
  wordsIn,
  type AnswerTrouble,
  type HostedForm,
} from '@zusammen/core/forms/hosted';
import { answersIn, fillIn, sensitiveNames } from './answers.ts';
import { Draft } from './draft.ts';
import { clearErrors, showErrors } from './errors.ts';
import { Files } from './files.ts';
import { tellDone, tellHeight, tellSent } from './frame.ts';
import { Leaves } from './leaves.ts';
import { Reading } from './reading.ts';
import { addRow, numberRows, takeRow } from './rows.ts';
import { setUpSignatures } from './signature.ts';
import { showWhatApplies } from './shown.ts';
import { proofOf } from './work.ts';

/**
 * What makes a form of ours pleasant: it is checked as it is filled in, rows and pages are here at once, what isn't sent yet
 * is kept for a day, and it is sent without leaving the page. Without it all of that works as well, a page a time.
 */
interface PageData {
  form: HostedForm;
  language: string;
  today: string;
  /** Tells the record it was opened with from others. */
  about?: string;
}

/** Sets a form's page to work. @param root the form */
export function setUp(root: HTMLFormElement, { form, language, today, about }: PageData): void {
  const words = wordsIn(language);
  const place = about === undefined ? window.location.pathname : `${window.location.pathname} ${about}`;
  const draft = new Draft(place, sensitiveNames(form));
  const leaves = new Leaves(root, words, (page) => isRight(page));
  /** Once it was tried to be sent, what is put right loses its words at once. */
  let tried = false;

  const reading = new Reading(
    root,
    words,
    () => answersIn(root),
    (values) => {
      fillIn(root, values, (group) => addRow(root, group));
      changed();
    },
  );
  const files = new Files(root, words, () => changed());
  /** What is to be paid stays true while answers change. */
  const showFee = (): void => {
    const sum = root.querySelector('[data-fee]');
    if (!sum || !form.fee) return;
    const come = toPay(form.fee, form, answersIn(root), { language });
    sum.textContent = come.ok ? amountText(come.minor, form.fee.currency, language) : '–';
  };
  const read = () => readAnswers(form, answersIn(root), { language, today });
  const refresh = (): void => {
    showWhatApplies(root, form);
    numberRows(root, words);
    leaves.refresh();
    reading.refresh();
    files.refresh();
    setUpSignatures(root, words, changed);
    showFee();
  };
  const show = (errors: readonly AnswerTrouble[]): void => {
    tried = true;
    const page = leaves.pageOf(errors.map(({ field }) => field));
    if (page !== undefined) leaves.open(page);
    showErrors(root, errors, words);
  };
  /** Whether nothing on a page is wrong; what is, is shown. */
  function isRight(page: Element): boolean {
    const came = read();
    const here = came.ok ? [] : came.errors.filter(({ field }) => leaves.isOn(page, field));
    if (here.length === 0) clearErrors(root, []);
    else show(here);
    return here.length === 0;
  }

  const send = async (button: HTMLButtonElement): Promise<void> => {
    if (files.busy) {
      lock(root, true);
      await files.settled();
      lock(root, false);
    }
    const came = read();
    if (!came.ok) return show(came.errors);
    const label = button.textContent;
    // What is sent is what stands there now, whatever is done meanwhile.
    const body = new URLSearchParams(new FormData(root) as unknown as Record<string, string>);
    lock(root, true);
    button.textContent = words.sending;
    draft.keep(root);
    try {
      let { response, answer } = await sending(root.action, body);
      if (response.status === 428 && answer.work) {
        // So many are sending that each has to do a small sum.
        button.textContent = words.working;
        const proof = await proofOf(answer.work);
        if (proof !== undefined) {
          body.set('_work', proof);
          ({ response, answer } = await sending(root.action, body));
        }
      }
      if (response.ok && answer.thanks !== undefined) {
        draft.forget();
        tellSent();
        return window.location.assign(answer.thanks);
      }
      lock(root, false);
      // It was sent before with other answers: what is sent now is another one.
      if (answer.shown !== undefined) (root.elements.namedItem('_shown') as HTMLInputElement).value = answer.shown;
      show(
        answer.errors ?? [
          { field: '', message: response.status >= 500 ? words.notSentNow : (answer.detail ?? words.notSent) },
        ],
      );
    } catch {
      lock(root, false);
      show([{ field: '', message: words.notSentNow }]);
    } finally {
      button.textContent = label;
    }
  };

  root.noValidate = true;
  root.addEventListener('submit', (event) => {
    event.preventDefault();
    const button = (event as SubmitEvent).submitter as HTMLButtonElement | null;
    if (button?.name === '_more') addRow(root, button.value);
    else if (button?.name === '_less') takeRow(root, button.value);
    // Enter in a field of a page that isn't the last goes on to the next.
    else if (leaves.next()) return;
    else return void send(root.querySelector<HTMLButtonElement>('.send button[type=submit]:not([name])')!);
    refresh();
    draft.keep(root);
  });
  function changed(): void {
    refresh();
    draft.keep(root);
    if (!tried) return;
    const came = read();
    clearErrors(root, came.ok ? [] : came.errors);
  }
  root.addEventListener('input', changed);
  root.addEventListener('change', changed);

  const kept = root.hasAttribute('data-fresh') ? draft.read() : undefined;
  if (kept) {
    fillIn(root, kept, (group) => addRow(root, group));
    draft.tell(root, words);
  }
  refresh();
}

async function sending(
  address: string,
  body: URLSearchParams,
): Promise<{ response: Response; answer: Partial<Answer> }> {
  const response = await fetch(address, { method: 'POST', body, headers: { Accept: 'application/json' } });
  return { response, answer: (await response.json().catch(() => ({}))) as Partial<Answer> };
}

interface Answer {
  thanks: string;
  work: Parameters<typeof proofOf>[0];
  errors: AnswerTrouble[];
  detail: string;
  shown: string;
}

/** While it is sent nothing can be changed or sent again. */
function lock(root: HTMLFormElement, locked: boolean): void {
  root.inert = locked;
  root.setAttribute('aria-busy', String(locked));
}

tellHeight();
tellDone();
const root = document.querySelector<HTMLFormElement>('form#form');
const data = document.getElementById('document');
if (root && data) setUp(root, JSON.parse(data.textContent ?? '') as PageData);
