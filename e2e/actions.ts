import type { Locator, Page } from '@playwright/test';

/** What somebody does on a page, counted: a click, a field, a choice, a key. */
export class Actions {
  count = 0;
  constructor(readonly page: Page) {}
  async click(what: Locator): Promise<void> {
    this.count += 1;
    await what.click();
  }
  async type(what: Locator, text: string): Promise<void> {
    this.count += 1;
    await what.fill(text);
  }
  button(name: string | RegExp): Locator {
    return this.page.getByRole('button', { name });
  }
  async choose(what: Locator, value: string): Promise<void> {
    this.count += 1;
    await what.selectOption(value);
  }
  async press(key: string): Promise<void> {
    this.count += 1;
    await this.page.keyboard.press(key);
  }
}
