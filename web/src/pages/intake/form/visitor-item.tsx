import type { HostedForm, Item } from '@zusammen/core/forms/hosted';
import { asHtml, itemView } from '@zusammen/core/forms/hosted/view';
import { memo, useEffect, useRef } from 'react';

interface Props {
  item: Item;
  form: HostedForm;
  language: string;
}

const TODAY = new Date().toISOString().slice(0, 10);

/**
 * A question as a visitor sees it: the very markup and style sheet of the form's page, in a tree of its own so that this
 * page's styles don't reach it. Nothing in it can be filled in here.
 */
export const VisitorItem = memo(function VisitorItem({ item, form, language }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const markup = itemView(item, { form, language, today: TODAY });
  const html = markup === undefined ? '' : asHtml(markup);
  const { first = '', second = '' } = form.look ?? {};
  useEffect(() => {
    const own = host.current!;
    const root = own.shadowRoot ?? own.attachShadow({ mode: 'open' });
    if (!root.querySelector('link')) {
      const sheet = document.createElement('link');
      sheet.rel = 'stylesheet';
      sheet.href = '/form.css';
      const within = document.createElement('div');
      within.className = 'preview';
      root.append(sheet, within);
    }
    // Written by asHtml: every text in it is escaped.
    root.querySelector('.preview')!.innerHTML = html;
  }, [html]);
  useEffect(() => {
    host.current!.style.setProperty('--first', first || null);
    host.current!.style.setProperty('--second', second || null);
  }, [first, second]);
  return <div ref={host} inert aria-hidden="true" className="select-none" />;
});
