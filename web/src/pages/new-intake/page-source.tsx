import { plural } from '../../parts/plural.ts';
import { originOf } from '@zusammen/core/checks';
import { readForms, type ReadForm } from '@zusammen/core/forms';
import { useEffect, useState } from 'react';
import { call, ApiProblem } from '../../api/client.ts';
import { Button } from '../../parts/button.tsx';
import { FileInput } from '../../parts/file-input.tsx';
import { TextField } from '../../parts/form.tsx';
import { nameFrom, type Brought } from './brought.ts';

const LIMIT = 5 * 1024 * 1024;

/** The form of a page: by the page's address, or by its HTML. The HTML is parsed where it stands, never shown or run. */
export function PageSource({ bring }: { bring: (brought: Brought | undefined) => void }) {
  const [address, setAddress] = useState('');
  const [html, setHtml] = useState('');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [page, setPage] = useState<{ forms: ReadForm[]; address?: string; charset?: string }>();
  const [chosen, setChosen] = useState(0);

  const take = (forms: ReadForm[], from?: { address: string; charset?: string }): void => {
    setPage({ forms, ...from });
    setProblem(
      forms.length === 0
        ? 'No form is on this page. Some are put there by a script: copy the HTML from the inspector instead.'
        : undefined,
    );
    // Searches and sign-ins stand on many pages; the form that is meant is the one with the most fields.
    setChosen(forms.reduce((most, form, at) => (form.fields.length > forms[most]!.fields.length ? at : most), 0));
  };
  const readAddress = async (): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      const whole = /^https?:\/\//i.test(address) ? address : `https://${address}`;
      const read = await call('post /pages/read', {
        body: {
          address: whole,
        },
      });
      const { forms, ...from } = read;
      take(forms, from);
    } catch (error) {
      setPage(undefined);
      setProblem(
        error instanceof ApiProblem
          ? error.errors[0]
            ? `This address ${error.errors[0].reason}.`
            : error.message
          : String(error),
      );
    } finally {
      setBusy(false);
    }
  };
  const readHtml = (text: string): void => {
    setHtml(text);
    setPage(undefined);
    setProblem(undefined);
    if (text.length > LIMIT) setProblem('The HTML has more than 5 MB; paste the part with the form.');
    else if (text.trim() !== '') take(readForms(text));
  };
  useEffect(() => {
    const form = page?.forms[chosen];
    if (!form) return bring(undefined);
    const origin = originOf(page.address);
    bring({
      name: nameFrom(
        form.name || new URL(page.address ?? 'x:/form').pathname.split('/').filter(Boolean).at(-1) || 'New form',
      ),
      fields: form.fields,
      left: form.left,
      source: {
        kind: 'page',
        ...(page.address === undefined ? {} : { page: page.address }),
        ...(form.name ? { formName: form.name } : {}),
        ...(page.charset === undefined ? {} : { charset: page.charset }),
      },
      settings: origin === undefined ? {} : { allowedOrigins: [origin] },
      samples: [],
      ...(form.action ? { note: `sends to ${form.action} by ${form.method.toUpperCase()}` } : {}),
    });
  }, [page, chosen, bring]);

  return (
    <div className="space-y-4">
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void readAddress();
        }}
      >
        <div className="min-w-0 flex-1">
          <TextField
            label="Address of the page"
            autoFocus
            value={address}
            placeholder="https://"
            onChange={({ target }) => setAddress(target.value)}
          />
        </div>
        <Button type="submit" busy={busy} disabled={address.trim() === ''}>
          Read it
        </Button>
      </form>
      <div>
        <label htmlFor="html" className="mb-1 block text-small font-semibold">
          Or the HTML of the page
        </label>
        <textarea
          id="html"
          spellCheck={false}
          value={html}
          onChange={({ target }) => readHtml(target.value)}
          placeholder="Open the page, copy its source and paste it here."
          className="h-[120px] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12px]"
        />
        <p className="mt-1 flex items-center gap-2 text-small text-soft">
          Or a file
          <FileInput
            label="A file with HTML"
            accept=".html,.htm,text/html"
            choose={(file) => void file.text().then(readHtml)}
          />
        </p>
      </div>
      {problem && (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
      {page && page.forms.length > 1 && (
        <fieldset>
          <legend className="mb-1 text-small font-semibold">{page.forms.length} forms are on the page</legend>
          {page.forms.map((each, at) => (
            <label key={at} className="flex gap-2 py-0.5">
              <input type="radio" name="form" checked={at === chosen} onChange={() => setChosen(at)} />
              {each.name || 'without a name'} <span className="text-soft">{plural(each.fields.length, 'field')}</span>
            </label>
          ))}
        </fieldset>
      )}
    </div>
  );
}
