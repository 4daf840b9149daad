import type { Words } from '@zusammen/core/forms/hosted';

/** Strokes have at most so many characters (core/forms/hosted/files.ts). */
const MOST_STROKES = 19_900;

/** Lets visitors draw their signature, by pointer, beneath the name that they type. */
export function setUpSignatures(root: HTMLFormElement, words: Words, changed: () => void): void {
  for (const box of root.querySelectorAll<HTMLElement>('.signature')) {
    const canvas = box.querySelector('canvas')!;
    if (!canvas.hidden) continue;
    setUp(box, canvas, words, changed);
  }
}

function setUp(box: HTMLElement, canvas: HTMLCanvasElement, words: Words, changed: () => void): void {
  const held = box.querySelector<HTMLInputElement>('input[type=hidden]')!;
  const anew = document.createElement('button');
  anew.type = 'button';
  anew.className = 'plain';
  anew.textContent = words.drawAnew;
  const help = document.createElement('p');
  help.className = 'help';
  help.append(words.drawHere, '. ', anew);
  canvas.hidden = false;
  canvas.before(help);
  const show = (): void => {
    anew.hidden = held.value === '';
    draw(canvas, held.value);
  };
  const at = (event: PointerEvent): string => {
    const { left, top, width, height } = canvas.getBoundingClientRect();
    const within = (value: number, most: number): number => Math.min(most, Math.max(0, Math.round(value)));
    const x = within(((event.clientX - left) / width) * canvas.width, canvas.width);
    const y = within(((event.clientY - top) / height) * canvas.height, canvas.height);
    return `${x} ${y}`;
  };
  const add = (point: string): void => {
    if (held.value.length + point.length < MOST_STROKES) held.value += point;
    show();
  };
  canvas.addEventListener('pointerdown', (event) => {
    event.preventDefault();
    canvas.setPointerCapture(event.pointerId);
    add(`M${at(event)}`);
  });
  canvas.addEventListener('pointermove', (event) => {
    if (canvas.hasPointerCapture(event.pointerId)) add(`L${at(event)}`);
  });
  canvas.addEventListener('pointerup', changed);
  anew.addEventListener('click', () => {
    held.value = '';
    show();
    changed();
    box.querySelector<HTMLInputElement>('input[type=text]')?.focus();
  });
  show();
}

/** Draws strokes as they are kept: moves and lines between whole numbers. */
function draw(canvas: HTMLCanvasElement, strokes: string): void {
  const pen = canvas.getContext('2d');
  if (!pen) return;
  pen.clearRect(0, 0, canvas.width, canvas.height);
  pen.lineWidth = 3;
  pen.lineCap = 'round';
  pen.lineJoin = 'round';
  pen.strokeStyle = getComputedStyle(canvas).color;
  pen.beginPath();
  for (const [, kind, x, y] of strokes.matchAll(/([ML])(\d{1,3}) (\d{1,3})/g)) {
    if (kind === 'M') pen.moveTo(Number(x), Number(y));
    pen.lineTo(Number(x), Number(y));
  }
  pen.stroke();
}
