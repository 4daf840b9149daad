import type { Words } from '@zusammen/core/forms/hosted';

/**
 * Files are sent as soon as they are chosen: what is wrong with one is said at once, and a reload or a broken connection
 * loses none. What goes along with the form is what speaks for the file on the server.
 */
export class Files {
  private readonly sending = new Set<Promise<void>>();

  constructor(
    private readonly root: HTMLFormElement,
    private readonly words: Words,
    private readonly changed: () => void,
  ) {
    root.addEventListener('change', ({ target }) => {
      if (target instanceof HTMLInputElement && target.type === 'file') this.take(target);
    });
  }

  get busy(): boolean {
    return this.sending.size > 0;
  }

  /** Resolves when no file is on its way any more. */
  async settled(): Promise<void> {
    while (this.sending.size > 0) await Promise.all(this.sending);
  }

  /** Rows that were added, and answers that were kept, have their files shown. */
  refresh(): void {
    for (const box of this.root.querySelectorAll<HTMLElement>('.file')) {
      const { picker, token, told } = partsOf(box);
      // It is sent by itself, and not once more with the form.
      picker.removeAttribute('name');
      picker.required &&= token.value === '';
      if (token.value !== '' && !told.querySelector('button')) this.tell(box, told.textContent || this.words.fileHere);
    }
  }

  private take(picker: HTMLInputElement): void {
    const box = picker.closest<HTMLElement>('.file');
    const file = picker.files?.[0];
    if (!box || !file) return;
    const { token, told } = partsOf(box);
    const most = Number(box.dataset['most']);
    token.value = '';
    if (file.size === 0) return this.refuse(box, this.words.fileEmpty);
    if (file.size > most * 1024 * 1024) return this.refuse(box, this.words.fileTooLarge(most));
    this.wrong(box, undefined);
    told.textContent = this.words.fileSending;
    const sent = this.send(box, file).finally(() => this.sending.delete(sent));
    this.sending.add(sent);
  }

  private async send(box: HTMLElement, file: File): Promise<void> {
    const { picker, token } = partsOf(box);
    const address = new URL(this.root.action);
    address.pathname += '/file';
    address.searchParams.set('question', token.name);
    address.searchParams.set('name', file.name.slice(0, 300));
    address.searchParams.set('page', this.root.querySelector<HTMLInputElement>('input[name="_shown"]')?.value ?? '');
    try {
      const headers = { Accept: 'application/json', 'Content-Type': 'application/octet-stream' };
      const response = await fetch(address, { method: 'POST', body: file, headers });
      const answer = (await response.json().catch(() => ({}))) as { token?: string; name?: string; detail?: string };
      if (!response.ok || answer.token === undefined) {
        this.refuse(box, response.status >= 500 ? this.words.notSentNow : (answer.detail ?? this.words.notSent));
        return;
      }
      token.value = answer.token;
      picker.required = false;
      this.tell(box, this.words.fileTaken(answer.name ?? file.name));
      this.changed();
    } catch {
      this.refuse(box, this.words.notSentNow);
    }
  }

  private tell(box: HTMLElement, words: string): void {
    const { picker, token, told } = partsOf(box);
    const away = document.createElement('button');
    away.type = 'button';
    away.className = 'plain';
    away.textContent = this.words.fileAway;
    away.addEventListener('click', () => {
      token.value = '';
      picker.value = '';
      told.textContent = '';
      picker.focus();
      this.changed();
    });
    told.replaceChildren(words, ' ', away);
  }

  private refuse(box: HTMLElement, words: string): void {
    const { picker, told } = partsOf(box);
    picker.value = '';
    told.textContent = '';
    this.wrong(box, words);
    this.changed();
  }

  /** What is wrong stands where the form's own errors stand. */
  private wrong(box: HTMLElement, words: string | undefined): void {
    const { picker } = partsOf(box);
    const line = document.getElementById(`${picker.id}-wrong`);
    if (line) {
      line.hidden = words === undefined;
      line.textContent = words ?? '';
    }
    if (words === undefined) picker.removeAttribute('aria-invalid');
    else {
      picker.setAttribute('aria-invalid', 'true');
      picker.setAttribute('aria-describedby', `${picker.id}-wrong`);
    }
  }
}

const partsOf = (box: HTMLElement): { picker: HTMLInputElement; token: HTMLInputElement; told: HTMLElement } => ({
  picker: box.querySelector<HTMLInputElement>('input[type=file]')!,
  token: box.querySelector<HTMLInputElement>('input[type=hidden]')!,
  told: box.querySelector<HTMLElement>('[role=status]')!,
});
