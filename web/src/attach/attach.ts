/**
 * The one script a page of somebody else's carries to send Zusammen a copy of what is submitted in its form:
 *
 *   <script src="https://…/attach.js" data-intake="enquiry" data-form="#contact" defer></script>
 *
 * It never prevents, delays or changes the page's own handling, throws nothing into the page, and sends nothing but
 * what the form itself would send, without passwords, card data and files. What can't be sent waits in the page's own
 * storage and is sent when the browser is online again or comes back within three days.
 */
const me = document.currentScript as HTMLScriptElement | null;
if (me?.dataset['intake']) attach(new URL(me.src).origin, me.dataset['intake'], me.dataset['form']);

function attach(origin: string, intake: string, selector: string | undefined): void {
  const address = `${origin}/in/${encodeURIComponent(intake)}`;
  const shelf = `zusammen:${intake}`;
  const load = key();

  const find = (): HTMLFormElement | null => {
    const found = selector ? document.querySelector(selector) : document.querySelector('form');
    return found instanceof HTMLFormElement ? found : (found?.querySelector('form') ?? null);
  };
  const quietly = (work: () => void): void => {
    try {
      work();
    } catch {
      // The page's visitors come for the page.
    }
  };

  const start = (): void => {
    const form = find();
    if (form) quietly(() => fillHidden(form));
    sendKept();
  };
  if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', start);
  else start();
  window.addEventListener('online', sendKept);

  // Before the page's own listeners have done anything to the values; forms that are put in later are heard as well.
  window.addEventListener(
    'submit',
    (event) =>
      quietly(() => {
        const form = event.target;
        if (!(form instanceof HTMLFormElement) || form !== find() || !valid(form)) return;
        const values = valuesOf(form, event.submitter);
        if (values.length > 0) send(`${load}-${hash(JSON.stringify(values))}`, values);
      }),
    true,
  );

  function send(id: string, values: [string, string][]): void {
    keep(id, values);
    // Form-encoded, so that no preflight stands between a page that is being left and its copy.
    const body = new URLSearchParams([...values, ['_key', id], ['_copied', '1']]);
    const done = (status: number): void => {
      // What is refused for what it is would be refused again.
      if (status < 500 && status !== 429) forget(id);
    };
    quietly(() => {
      fetch(address, {
        method: 'POST',
        body,
        keepalive: body.toString().length < 60_000,
        mode: 'cors',
        credentials: 'omit',
      })
        .then(({ status }) => done(status))
        .catch(() => undefined);
    });
  }

  function sendKept(): void {
    quietly(() => {
      for (const [id, { values, at }] of Object.entries(kept())) {
        if (Date.now() - at > 3 * 86_400_000) forget(id);
        else send(id, values);
      }
    });
  }

  type Kept = Record<string, { values: [string, string][]; at: number }>;
  function kept(): Kept {
    try {
      return (JSON.parse(localStorage.getItem(shelf) ?? '{}') as Kept | null) ?? {};
    } catch {
      return {};
    }
  }
  function put(all: Kept): void {
    quietly(() => {
      if (Object.keys(all).length === 0) localStorage.removeItem(shelf);
      else localStorage.setItem(shelf, JSON.stringify(all));
    });
  }
  function keep(id: string, values: [string, string][]): void {
    const all = kept();
    all[id] = all[id] ?? { values, at: Date.now() };
    // A few are enough; a page must not fill its visitors' storage.
    const ids = Object.keys(all);
    for (const old of ids.slice(0, -20)) delete all[old];
    put(all);
  }
  function forget(id: string): void {
    const all = kept();
    delete all[id];
    put(all);
  }
}

/** Fills hidden fields nobody has filled: those named like a parameter of the address, `referrer` and `page`. */
function fillHidden(form: HTMLFormElement): void {
  const parameters = new URLSearchParams(location.search);
  for (const input of Array.from(form.querySelectorAll<HTMLInputElement>('input[type=hidden]'))) {
    if (input.value !== '' || input.name === '') continue;
    const given =
      parameters.get(input.name) ??
      (input.name === 'referrer' ? document.referrer : input.name === 'page' ? location.href.split('?')[0]! : '');
    if (given) input.value = given.slice(0, 500);
  }
}

/** A form the browser itself would not send isn't copied; one that switches its checks off is taken at its word. */
const valid = (form: HTMLFormElement): boolean => form.noValidate || form.checkValidity();

const SECRET = /^cc-|(^|[\s-])(password|one-time-code)/;
const CARD = /(^|[^a-z])(cvv|cvc|csc)([^a-z]|$)|card[-_ ]?(number|no)([^a-z]|$)|kartennummer/i;

/** What the form sends, but for secrets and files. */
function valuesOf(form: HTMLFormElement, submitter: HTMLElement | null): [string, string][] {
  const secret = new Set<string>();
  for (const each of Array.from(form.elements)) {
    const { name, type, autocomplete = '' } = each as HTMLInputElement;
    if (type === 'password' || SECRET.test(autocomplete) || CARD.test(name)) secret.add(name);
  }
  const pairs: [string, string][] = [];
  new FormData(form).forEach((value, name) => {
    if (typeof value === 'string' && !secret.has(name)) pairs.push([name, value]);
  });
  const { name, value } = (submitter ?? {}) as { name?: string; value?: string };
  if (name) pairs.push([name, value ?? '']);
  return pairs;
}

/** A key for this loading of the page: the same values sent twice from it are one submission. */
function key(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** FNV-1a, 32 bits. */
function hash(text: string): string {
  let state = 2166136261;
  for (let at = 0; at < text.length; at += 1) state = Math.imul(state ^ text.charCodeAt(at), 16777619);
  return (state >>> 0).toString(36);
}
