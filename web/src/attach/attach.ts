/**
 * The one script a page of somebody else's carries to send Zusammen a copy of what is submitted in its form:
 *
 *   <script src="https://…/attach.js" data-intake="enquiry" data-form="#contact" defer></script>
 *
 * With `data-button="#send"` it listens to a button as well, for pages whose own script sends the values without
 * submitting the form. It works as a module too, and finds forms in open shadow roots.
 *
 * Controls without a name, which a browser doesn't send, are sent under their id, else their label, as the page reader
 * names them. Where the page has no `form` around its controls, `data-form` says what holds them, and `data-button` when.
 *
 * It never prevents, delays or changes the page's own handling, throws nothing into the page, and sends nothing but
 * what the form itself would send, without passwords, card data and files. What can't be sent waits in the page's own
 * storage and is sent when the browser is online again or comes back within three days.
 */
import { controlsIn, elementsOf, FORM, unnamedAmong, valid, valuesOf } from './values.ts';

// A module has no current script; it is known by its address.
const me =
  (document.currentScript as HTMLScriptElement | null) ??
  Array.from(document.querySelectorAll<HTMLScriptElement>('script[data-intake][src]')).find(({ src }) =>
    /\/attach\.js(?:[?#]|$)/.test(src),
  );

/** All roots in which forms may stand: the page and its open shadow roots, however deep. */
function roots(root: Document | ShadowRoot = document): (Document | ShadowRoot)[] {
  const inside = Array.from(root.querySelectorAll('*')).flatMap(({ shadowRoot }) =>
    shadowRoot ? roots(shadowRoot) : [],
  );
  return [root, ...inside];
}

function attach(origin: string, intake: string, selector: string | undefined, button: string | undefined): void {
  const address = `${origin}/in/${encodeURIComponent(intake)}`;
  const shelf = `zusammen:${intake}`;
  const load = key();

  const find = (): HTMLFormElement | null => {
    for (const root of roots()) {
      const found = root.querySelector(selector ?? 'form');
      const form = found instanceof HTMLFormElement ? found : found?.querySelector('form');
      if (form) return form;
    }
    return null;
  };
  /** What holds the controls of a page that has no form: only where it is said. */
  const holder = (): Element | null => {
    if (selector === undefined) return null;
    for (const root of roots()) {
      const found = root.querySelector(selector);
      if (found && !(found instanceof HTMLFormElement) && !found.querySelector('form')) return found;
    }
    return null;
  };
  const quietly = (work: () => void): void => {
    try {
      work();
    } catch {
      // The page's visitors come for the page.
    }
  };

  const heard = new WeakSet<Document | ShadowRoot>();
  /** An event within a shadow root doesn't leave it, so every root is listened to; some come later. */
  const listen = (): void => {
    for (const root of roots()) listenTo(root);
  };
  const listenTo = (root: Document | ShadowRoot): void => {
    if (heard.has(root)) return;
    heard.add(root);
    if (root !== document) root.addEventListener('submit', (event) => quietly(() => submitted(event)), true);
    new MutationObserver(soon).observe(root, { childList: true, subtree: true });
  };
  const attached = Element.prototype.attachShadow;
  Element.prototype.attachShadow = function attachShadow(this: Element, init: ShadowRootInit): ShadowRoot {
    const root = attached.call(this, init);
    if (root.mode === 'open') quietly(() => listenTo(root));
    return root;
  };
  let waits: ReturnType<typeof setTimeout> | undefined;
  const soon = (): void => {
    waits ??= setTimeout(() => {
      waits = undefined;
      quietly(listen);
    }, 200);
  };
  const start = (): void => {
    const form = find();
    if (form) quietly(() => fillHidden(form));
    quietly(listen);
    sendKept();
  };
  if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', start);
  else start();
  window.addEventListener('online', sendKept);

  // Before the page's own listeners have done anything to the values; forms that are put in later are heard as well.
  const copy = (form: HTMLFormElement, submitter: HTMLElement | null): void => {
    if (valid(form)) sendNew(valuesOf(form, submitter));
  };
  const sendNew = (values: [string, string][]): void => {
    if (values.length > 0) send(`${load}-${hash(JSON.stringify(values))}`, values);
  };
  /** Forms whose submitting was just heard: a page that stops it and calls `submit()` instead sends once. */
  const justHeard = new WeakSet<HTMLFormElement>();
  const submitted = (event: Event): void => {
    const form = event.target;
    if (!(form instanceof HTMLFormElement) || form !== find()) return;
    justHeard.add(form);
    setTimeout(() => justHeard.delete(form), 10_000);
    copy(form, (event as SubmitEvent).submitter);
  };
  window.addEventListener('submit', (event) => quietly(() => submitted(event)), true);
  // A script that calls form.submit() sends without an event.
  const own = FORM.submit;
  FORM.submit = function submit(this: HTMLFormElement): void {
    quietly(() => {
      if (this === find() && !justHeard.has(this)) copy(this, null);
    });
    own.call(this);
  };
  if (button !== undefined)
    window.addEventListener(
      'click',
      (event) =>
        quietly(() => {
          const [inner] = event.composedPath();
          if (!(inner instanceof Element && inner.closest(button))) return;
          const form = find();
          const held = form ? null : holder();
          if (form) copy(form, null);
          else if (held) sendNew(unnamedAmong(controlsIn(held), true));
        }),
      true,
    );
  // What the page's own rules keep back is said to whoever looks into it, once.
  let told = false;
  document.addEventListener('securitypolicyviolation', ({ blockedURI, effectiveDirective }) => {
    if (told || !blockedURI.startsWith(origin)) return;
    told = true;
    // The one thing said aloud: the page's own rules hold the copy back.
    // eslint-disable-next-line no-console
    console.warn(
      `attach.js: the page's Content-Security-Policy (${effectiveDirective}) doesn't let the copy go to ${origin}.`,
    );
  });

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
  for (const each of Array.from(elementsOf.call(form))) {
    const input = each as HTMLInputElement;
    if (input.type !== 'hidden') continue;
    if (input.value !== '' || input.name === '') continue;
    const given =
      parameters.get(input.name) ??
      (input.name === 'referrer' ? document.referrer : input.name === 'page' ? location.href.split('?')[0]! : '');
    if (given) input.value = given.slice(0, 500);
  }
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

// At the end, when all that it uses is there.
if (me?.dataset['intake'])
  attach(new URL(me.src).origin, me.dataset['intake'], me.dataset['form'], me.dataset['button']);
