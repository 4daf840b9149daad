import { MOST_MARK, PLAIN_LOOK, say, type HostedForm } from '@zusammen/core/forms/hosted';
import { useState } from 'react';
import { Button } from '../../../parts/button.tsx';
import { plural } from '../../../parts/plural.ts';
import type { Editing } from './editing.tsx';
import { FeePart } from './fee-part.tsx';
import { OpenedPart } from './opened-part.tsx';
import { BOX, Part } from './part.tsx';
import { nameOf, worded } from './wording.tsx';

/** The form's title and what is said before its questions; beside it what holds for it as a whole. */
export function WholeForm({ editing }: { editing: Editing }) {
  const { form, language, mayEdit } = editing;
  const [isOpen, setOpen] = useState(false);
  const edited = mayEdit;
  const set = (name: 'intro' | 'thanks', text: string): void =>
    editing.changeWhole(({ [name]: held, ...rest }) => {
      const next = worded(held, language, text);
      return next ? { ...rest, [name]: next } : rest;
    });
  const intro = say(form.intro, language, form.languages);
  const thanks = say(form.thanks, language, form.languages);
  return (
    <div className="grid grid-cols-[var(--paper)_minmax(0,1fr)] border-l-[3px] border-transparent max-[1100px]:grid-cols-1">
      <div className="px-6 py-3">
        {isOpen ? (
          <div className="space-y-1.5">
            <input
              autoFocus
              aria-label="The form’s title"
              maxLength={200}
              className="w-full rounded-[6px] border border-plum bg-sheet px-2 py-1 text-title font-bold"
              value={form.title[language] ?? ''}
              placeholder={say(form.title, language, form.languages)}
              onChange={({ target }) =>
                editing.changeWhole((held) => ({
                  ...held,
                  title: worded(held.title, language, target.value) ?? held.title,
                }))
              }
              onKeyDown={({ key }) => (key === 'Enter' || key === 'Escape') && setOpen(false)}
            />
            <textarea
              aria-label="What is said before the questions"
              rows={3}
              maxLength={5000}
              className="w-full rounded-[6px] border border-line bg-sheet px-2 py-1"
              placeholder="What is said before the questions, or nothing"
              value={form.intro?.[language] ?? ''}
              onChange={({ target }) => set('intro', target.value)}
            />
            <Button onClick={() => setOpen(false)}>Done</Button>
          </div>
        ) : (
          <button
            type="button"
            disabled={!mayEdit}
            aria-label="Title and introduction"
            className="block w-full text-left"
            onClick={() => setOpen(true)}
          >
            <span className="block text-title font-bold">{say(form.title, language, form.languages)}</span>
            {intro !== '' && <span className="mt-1 line-clamp-3 block whitespace-pre-line">{intro}</span>}
          </button>
        )}
      </div>
      <div className="min-w-0 border-l border-hair py-3 pr-4 pl-3 leading-[26px] max-[1100px]:border-l-0 max-[1100px]:pl-6">
        {plural(
          editing.standings.filter(({ item: { name, kind } }) => name !== undefined && kind !== 'group').length,
          'question',
        )}
        {form.pages.length > 1 && ` on ${form.pages.length} pages`}. <OpenedPart editing={editing} edited={edited} />
        <FeePart editing={editing} edited={edited} /> In{' '}
        <Part label="Languages" shown={form.languages.map(nameOf).join(', ')} edited={edited} wide>
          {() => <LanguagesBox editing={editing} />}
        </Part>
        . Thanks with{' '}
        <Part
          label="Thanks"
          shown={thanks === '' ? 'our own words' : `“${thanks.length > 34 ? `${thanks.slice(0, 32)}…` : thanks}”`}
          edited={edited}
          wide
        >
          {() => (
            <textarea
              autoFocus
              aria-label="What is said once it is sent"
              rows={4}
              maxLength={5000}
              className="w-full rounded-[6px] border border-line bg-sheet p-2"
              placeholder="Thank you! We have received it."
              value={form.thanks?.[language] ?? ''}
              onChange={({ target }) => set('thanks', target.value)}
            />
          )}
        </Part>
        . When a system refuses it,{' '}
        <Part label="When a system refuses it" shown={REFUSALS[form.refusals ?? 'nothing']} edited={edited}>
          {(close) => (
            <div className="flex flex-col items-start gap-1 p-2">
              {(['nothing', 'sentence', 'words'] as const).map((each) => (
                <Button
                  key={each}
                  look={(form.refusals ?? 'nothing') === each ? 'moss' : 'plain'}
                  onClick={() => {
                    editing.changeWhole(({ refusals: _, ...held }) =>
                      each === 'nothing' ? held : { ...held, refusals: each },
                    );
                    close();
                  }}
                >
                  {REFUSALS[each]}
                </Button>
              ))}
            </div>
          )}
        </Part>
        . In{' '}
        <Part
          label="Colours"
          shown={form.look?.mark ? 'your colours, with your mark' : form.look ? 'your colours' : 'plain colours'}
          edited={edited}
        >
          {() => <ColoursBox editing={editing} />}
        </Part>
        .
      </div>
    </div>
  );
}

/** What whoever sent it is told when a system doesn’t take it. */
const REFUSALS = {
  nothing: 'the visitor isn’t told',
  sentence: 'a polite sentence is said',
  words: 'its own words are said',
} as const;

const LANGUAGE = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/;

function LanguagesBox({ editing }: { editing: Editing }) {
  const { form } = editing;
  const [typed, setTyped] = useState('');
  const isGood = LANGUAGE.test(typed) && !form.languages.includes(typed) && form.languages.length < 12;
  return (
    <div className="space-y-2 p-2">
      <ul className="space-y-1">
        {form.languages.map((each, at) => (
          <li key={each} className="flex items-center justify-between gap-2">
            <span>
              {nameOf(each)} <span className="font-mono text-[13px] text-soft">{each}</span>
              {at === 0 && <span className="text-small text-soft"> for whoever has none of them</span>}
            </span>
            <span className="flex gap-2 text-small">
              {at > 0 && (
                <button
                  type="button"
                  className="min-h-6 text-plum hover:underline"
                  onClick={() =>
                    editing.changeWhole((held) => ({
                      ...held,
                      languages: [each, ...held.languages.filter((other) => other !== each)],
                    }))
                  }
                >
                  first
                </button>
              )}
              {form.languages.length > 1 && (
                <button
                  type="button"
                  className="min-h-6 text-soft hover:text-brick hover:underline"
                  onClick={() =>
                    editing.changeWhole((held) => ({
                      ...held,
                      languages: held.languages.filter((other) => other !== each),
                    }))
                  }
                >
                  leave out
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isGood) return;
          editing.changeWhole((held) => ({ ...held, languages: [...held.languages, typed] }));
          editing.speak(typed);
          setTyped('');
        }}
      >
        <input
          aria-label="One language more"
          className={`${BOX} w-[110px] font-mono`}
          placeholder="de, pl, fr …"
          maxLength={20}
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        <Button type="submit" disabled={!isGood}>
          {isGood ? `Add ${nameOf(typed)}` : 'Add'}
        </Button>
      </form>
      <p className="text-small text-soft">
        Words that aren’t there in a language are shown in the first one that has them.
      </p>
    </div>
  );
}

function ColoursBox({ editing }: { editing: Editing }) {
  const { look } = editing.form;
  const setLook = (name: 'first' | 'second' | 'mark', value: string | undefined): void =>
    editing.changeWhole(({ look: held = {}, ...rest }): HostedForm => {
      const next = { ...held };
      if (value === undefined) delete next[name];
      else next[name] = value;
      return Object.keys(next).length === 0 ? rest : { ...rest, look: next };
    });
  return (
    <div className="w-[240px] space-y-2 p-2">
      {(['first', 'second'] as const).map((name) => (
        <label key={name} className="flex items-center justify-between gap-2">
          <span className="text-small">{name === 'first' ? 'Buttons and marks' : 'Links'}</span>
          <input
            type="color"
            value={look?.[name] ?? PLAIN_LOOK[name]}
            onChange={({ target }) => setLook(name, target.value)}
          />
        </label>
      ))}
      <MarkBox mark={look?.mark} set={(mark) => setLook('mark', mark)} />
      <Button disabled={!look} onClick={() => editing.changeWhole(({ look: _, ...rest }) => rest)}>
        Plain, without a mark
      </Button>
      <p className="text-small text-soft">
        What stands on the first is written in white or ink, whichever reads better.
      </p>
    </div>
  );
}

/** The owner's mark: a small picture that stands above the title. */
function MarkBox({ mark, set }: { mark: string | undefined; set: (mark: string | undefined) => void }) {
  const [trouble, setTrouble] = useState<string>();
  const take = (file: File | undefined): void => {
    if (!file) return;
    const reader = new FileReader();
    reader.onload = () => {
      const read = String(reader.result);
      const isOne = /^data:image\/(?:png|jpeg|webp);base64,/.test(read) && read.length <= MOST_MARK;
      setTrouble(isOne ? undefined : 'A PNG, JPEG or WebP of at most 60 kB, please.');
      if (isOne) set(read);
    };
    reader.readAsDataURL(file);
  };
  return (
    <div className="space-y-1">
      {mark !== undefined && <img src={mark} alt="Your mark" className="max-h-[60px] max-w-full" />}
      <label className="block text-small">
        Your mark, above the title
        <input
          type="file"
          accept=".png,.jpg,.jpeg,.webp"
          className="mt-1 block w-full text-small"
          onChange={({ target }) => take(target.files?.[0])}
        />
      </label>
      {mark !== undefined && (
        <button type="button" className="min-h-6 text-small text-soft hover:underline" onClick={() => set(undefined)}>
          without it
        </button>
      )}
      {trouble !== undefined && (
        <p role="alert" className="text-small text-brick">
          {trouble}
        </p>
      )}
    </div>
  );
}
