/**
 * What the page of somebody else carries to show a form of ours: one line where the form is to stand,
 * `<script src="https://…/embed.js" data-form="the-intake" async></script>`. It makes a frame that grows with its content,
 * passes on what stands in the page's address, and tells the page when the form was sent (an event `formsent` on the frame).
 * The form shows only on pages whose origin the intake names.
 */
const script = document.currentScript as HTMLScriptElement | null;
const MOST_PASSED = 2000;

if (script?.dataset['form']) {
  const ours = new URL(script.src).origin;
  const address = new URL(`/f/${encodeURIComponent(script.dataset['form'])}`, ours);
  const passed = new URLSearchParams(window.location.search.slice(0, MOST_PASSED));
  passed.forEach((value, name) => address.searchParams.set(name, value));
  address.searchParams.set('page', window.location.href.split('?')[0]!.slice(0, MOST_PASSED));
  address.searchParams.set('referrer', document.referrer.slice(0, MOST_PASSED));
  address.searchParams.set('in', window.location.origin);
  if (script.dataset['lang']) address.searchParams.set('lang', script.dataset['lang']);
  const frame = document.createElement('iframe');
  frame.src = address.href;
  frame.title = script.dataset['title'] ?? 'Form';
  frame.style.cssText = 'display:block;width:100%;height:600px;border:0';
  window.addEventListener('message', ({ origin, source, data }: MessageEvent<unknown>) => {
    if (origin !== ours || source !== frame.contentWindow || typeof data !== 'object' || data === null) return;
    const { height, sent } = data as { height?: unknown; sent?: unknown };
    if (typeof height === 'number' && height > 0 && height < 100_000) frame.style.height = `${Math.ceil(height)}px`;
    if (sent === true) frame.dispatchEvent(new CustomEvent('formsent', { bubbles: true }));
  });
  script.after(frame);
}
