import { applyMend } from '@zusammen/core/checks';
import { isChoice, isQuestion, withKind, type ItemKind, type Standing } from '@zusammen/core/forms/hosted';
import { Combobox } from '../../../parts/combobox.tsx';
import { useDraft } from '../draft.tsx';
import { CopyTo } from './copy-to.tsx';
import type { Editing } from './editing.tsx';
import { kindInWords, KINDS } from './kinds.ts';
import { LimitsPart } from './limits-part.tsx';
import { OptionsPart } from './options-part.tsx';
import { Part, Toggle } from './part.tsx';
import { ReadsPart } from './reads-part.tsx';
import { ShownPart } from './shown-part.tsx';
import { BeginsPart } from './begins-part.tsx';
import { NamePart, RowsPart } from './small-parts.tsx';
import { TargetPart } from './target-part.tsx';

/** Nobody has agreed, signed or chosen a file beforehand. */
const NEVER_BEGUN = new Set<ItemKind>(['consent', 'signature', 'file']);

/** What a question does, as a sentence in the margin beside it; that of the chosen one is changed where it stands. */
export function Sentence({ standing, edited, editing }: { standing: Standing; edited: boolean; editing: Editing }) {
  const { item } = standing;
  const around = { item, edited, editing };
  return (
    <div className="leading-[26px]">
      {isQuestion(item.kind) ? (
        <Question standing={standing} edited={edited} editing={editing} />
      ) : item.kind === 'group' ? (
        <>
          Rows that repeat, <RowsPart {...around} />. <RowsInto name={standing.name} />
        </>
      ) : (
        edited && <>{item.kind === 'heading' ? 'A heading' : 'Words'} between the questions.</>
      )}
      <ShownPart standing={standing} edited={edited} editing={editing} />
      {isQuestion(item.kind) && !NEVER_BEGUN.has(item.kind) && !item.reads && <BeginsPart {...around} />}
      <NamePart key={item.name} {...around} />
      <Findings name={standing.name} label={item.label[editing.form.languages[0]!] ?? ''} />
      {edited && <Doings standing={standing} editing={editing} />}
    </div>
  );
}

function Question({ standing, edited, editing }: { standing: Standing; edited: boolean; editing: Editing }) {
  const { item } = standing;
  const around = { item, edited, editing };
  return (
    <>
      <TargetPart standing={standing} edited={edited} editing={editing} />
      {(item.required === true || edited) && item.kind !== 'hidden' && (
        <>
          ,{' '}
          <Toggle
            label="Whether it has to be answered"
            shown={item.required === true ? 'required' : 'may be left blank'}
            edited={edited}
            flip={() =>
              editing.change(item.id, ({ required, ...rest }) => (required ? rest : { ...rest, required: true }))
            }
          />
        </>
      )}
      {isChoice(item.kind) && !item.reads && (
        <>
          , <OptionsPart {...around} />
        </>
      )}
      <LimitsPart {...around} />.
      {edited && !item.reads && (
        <>
          {' '}
          Asked as{' '}
          <Part label="Asked as" shown={kindInWords(item.kind)} edited wide>
            {(close) => (
              <Combobox
                placeholder="Asked as"
                items={KINDS.filter(({ kind }) => isQuestion(kind)).map(({ kind, words }) => ({
                  value: kind,
                  label: words,
                  words,
                }))}
                choose={(kind) => {
                  const next = KINDS.find((each) => each.kind === kind)!.kind;
                  editing.change(item.id, (held) => withKind(held, next, editing.language));
                  close();
                }}
              />
            )}
          </Part>
          .
        </>
      )}
      <ReadsPart standing={standing} edited={edited} editing={editing} />
    </>
  );
}

/** Which step is done for every row of a group. */
function RowsInto({ name }: { name: string }) {
  const { document, schemas } = useDraft();
  const steps = document.plan.steps.filter(({ repeat }) => repeat === name);
  if (steps.length === 0) return <>No step is done for every row yet.</>;
  return (
    <>
      Each row is a{' '}
      {steps
        .map(
          ({ system, entity }) => schemas.get(system)?.entities.find((each) => each.name === entity)?.label ?? entity,
        )
        .join(' and a ')}
      .
    </>
  );
}

/** What checks say of a question, with what mends it. */
function Findings({ name, label }: { name: string; label: string }) {
  const { findings, change, mayEdit } = useDraft();
  const own = findings.filter(({ place }) => name !== '' && place.station === 'arrive' && place.field === name);
  return own.map((finding, at) => (
    <span key={at} className="font-semibold text-saffron">
      {' '}
      <span aria-hidden="true">◆</span> {withoutLabel(finding.sentence, label)}
      {finding.mend && mayEdit && (
        <button
          type="button"
          className="ml-1 min-h-6 font-semibold text-plum hover:underline"
          onClick={() => change((held) => applyMend(held, finding.mend!))}
        >
          {finding.mend.label}
        </button>
      )}
    </span>
  ));
}

/** A sentence that begins with what it is about, without that: it stands beside it. */
const withoutLabel = (sentence: string, label: string): string =>
  sentence.startsWith(`“${label}”: `) ? sentence.slice(label.length + 4) : sentence;

function Doings({ standing, editing }: { standing: Standing; editing: Editing }) {
  const { item, groups, page } = standing;
  const isFirst = editing.form.pages[page]?.items[0]?.id === item.id;
  const button = 'min-h-6 font-semibold text-plum hover:underline';
  return (
    <span className="mt-1 flex flex-wrap gap-x-4 text-small">
      <button type="button" className={button} onClick={() => editing.word(item.id)}>
        word it
      </button>
      {groups.length === 0 && !(isFirst && page === 0) && (
        <button type="button" className={button} onClick={() => editing.breakAt(item.id)}>
          {isFirst ? 'join with the page before' : 'begin a page here'}
        </button>
      )}
      <CopyTo standing={standing} editing={editing} />
      <button
        type="button"
        className="min-h-6 text-soft hover:text-brick hover:underline"
        onClick={() => editing.remove(item.id)}
      >
        take it out
      </button>
    </span>
  );
}
