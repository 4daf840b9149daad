/**
 * What the page of somebody else carries to show a form of ours: one line where the form is to stand,
 * `<script src="https://…/embed.js" data-form="the-intake" async></script>`. It makes a frame that grows with its content,
 * passes on what stands in the page's address, and tells the page when the form was sent (an event `formsent` on the frame).
 * The form shows only on pages whose origin the intake names.
 *
 * A page of a record shows a panel: `data-panel` in the place of `data-form` is its address, and `data-context` what the
 * page's system has signed of the record and of whoever is signed in. What came of it is told by an event `formdone`,
 * whose `detail.records` are those that were made or changed.
 */
const script = document.currentScript as HTMLScriptElement | null;
const MOST_PASSED = 2000;

/** A frame that grows with what it shows, and passes on what that tells. */
function frameFor({ dataset }: HTMLScriptElement, ours: string): HTMLIFrameElement {
  const frame = document.createElement('iframe');
  frame.title = dataset['title'] ?? 'Form';
  frame.style.cssText = 'display:block;width:100%;height:600px;border:0';
  window.addEventListener('message', ({ origin, source, data }: MessageEvent<unknown>) => {
    if (origin !== ours || source !== frame.contentWindow || typeof data !== 'object' || data === null) return;
    const { height, sent, done } = data as { height?: unknown; sent?: unknown; done?: unknown };
    if (typeof height === 'number' && height > 0 && height < 100_000) frame.style.height = `${Math.ceil(height)}px`;
    if (sent === true) frame.dispatchEvent(new CustomEvent('formsent', { bubbles: true }));
    if (Array.isArray(done))
      frame.dispatchEvent(new CustomEvent('formdone', { bubbles: true, detail: { records: done as unknown } }));
  });
  return frame;
}

/** What is signed is posted: in an address it would stay in histories and logs. */
function post(to: URL, context: string, frame: HTMLIFrameElement): void {
  const form = document.createElement('form');
  form.method = 'post';
  form.action = to.href;
  form.target = frame.name;
  const field = document.createElement('input');
  field.type = 'hidden';
  field.name = 'context';
  field.value = context;
  form.append(field);
  document.body.append(form);
  form.submit();
  form.remove();
}

if (script?.dataset['panel']) {
  const address = new URL(script.dataset['panel'], script.src);
  address.searchParams.set('in', window.location.origin);
  if (script.dataset['lang']) address.searchParams.set('lang', script.dataset['lang']);
  const frame = frameFor(script, address.origin);
  frame.name = `panel-${Math.random().toString(36).slice(2)}`;
  script.after(frame);
  post(address, script.dataset['context'] ?? '', frame);
} else if (script?.dataset['form']) {
  const ours = new URL(script.src).origin;
  const address = new URL(`/f/${encodeURIComponent(script.dataset['form'])}`, ours);
  const passed = new URLSearchParams(window.location.search.slice(0, MOST_PASSED));
  passed.forEach((value, name) => address.searchParams.set(name, value));
  address.searchParams.set('page', window.location.href.split('?')[0]!.slice(0, MOST_PASSED));
  address.searchParams.set('referrer', document.referrer.slice(0, MOST_PASSED));
  address.searchParams.set('in', window.location.origin);
  if (script.dataset['lang']) address.searchParams.set('lang', script.dataset['lang']);
  const frame = frameFor(script, ours);
  frame.src = address.href;
  script.after(frame);
}
