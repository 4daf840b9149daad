import { keepPreviousData, useQueries, useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query';
import type { Facts, Finding } from '@zusammen/core/checks';
import { formOn, type SubmittedValues } from '@zusammen/core/forms';
import { standingsOf } from '@zusammen/core/forms/hosted';
import { titleOf } from '@zusammen/core/mapping';
import type { IntakeDocument } from '@zusammen/core/intake';
import { begun, changed, madeUpSample, redone, undone } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { call, apiLines, ApiProblem } from '../../api/client.ts';
import {
  systemQuery,
  useFacts,
  useMe,
  usePageForms,
  useConvertible,
  usePast,
  useSamples,
  useSystems,
} from '../../api/hooks.ts';
import type { IntakeDetail, Rehearsed, System, SystemDetail } from '@zusammen/core/api';
import { worker } from '../../work/index.ts';

/** One sample: kept with the intake, or a past submission. */
export interface SampleLine {
  id: string;
  title: string;
  values: SubmittedValues;
  at: string;
  kept: boolean;
  /** Nobody sent it: it stands in until there is one. */
  madeUp?: true;
  /** A record that could be converted, as it is now. */
  record?: true;
}

/** How far what is said of the document is true of it as it stands: nothing is said of a state that is gone. */
export interface Standing {
  /** The schemas that the plan writes to have been read. */
  read: boolean;
  /** The checks ran on the document, schemas and samples that are here now. */
  checked: boolean;
  /** Every sample was rehearsed on the document that is here now. */
  rehearsed: boolean;
}

/** What the samples would come to, in their order; undefined where a result doesn't stand yet. */
export interface Rehearsal {
  data: readonly (Rehearsed | undefined)[] | undefined;
  error: Error | null;
  isFetching: boolean;
  /** The results are those of the document as it is now. */
  current: boolean;
  /** Asks the systems again for what they were asked before. */
  again: () => void;
}

export type Saving = 'saved' | 'saving' | 'overtaken' | { failed: string };

export interface Draft {
  detail: IntakeDetail;
  document: IntakeDocument;
  mayEdit: boolean;
  /** Changes the document; every change can be undone and is saved by itself. */
  change: (work: (document: IntakeDocument) => IntakeDocument) => void;
  undo: () => void;
  redo: () => void;
  saving: Saving;
  /** Saves what isn't saved yet; resolves to the revision that holds it. */
  flush: () => Promise<number>;
  samples: SampleLine[];
  systems: System[];
  /** Schemas by system, of those the plan writes to; of all systems, as far as they are read, once `readAll` was called. */
  schemas: ReadonlyMap<string, Schema>;
  /** Has the schemas of all systems read too, for choosing among all entities. */
  readAll: () => void;
  /** The schemas of all systems are there. */
  allRead: boolean;
  standing: Standing;
  findings: Finding[];
  facts: Facts | undefined;
  rehearsal: Rehearsal;
  /** Differs from the live version. */
  changed: boolean;
}

const Context = createContext<Draft | undefined>(undefined);

export function useDraft(): Draft {
  const draft = useContext(Context);
  if (!draft) throw new Error('useDraft is for the pages of an intake.');
  return draft;
}

const SAVE_AFTER_MS = 500;

export function DraftProvider({ detail, children }: { detail: IntakeDetail; children: ReactNode }) {
  const me = useMe();
  const mayEdit = me.data !== undefined && me.data.role !== 'viewer';
  const { document, change, undo, redo, saving, flush } = useDocument(detail, mayEdit);
  const { systems, schemas, read, readAll, allRead } = useSchemas(document);
  const samples = useSampleLines(detail.intake.id, document, schemas, mayEdit);
  const facts = useDraftFacts(detail.intake.id, document, mayEdit);
  const { findings, checked } = useFindings(document, schemas, samples, facts, read);
  const rehearsal = useRehearsal(detail.intake.id, document, samples, mayEdit && read);
  const rehearsed = rehearsal.current && rehearsal.data?.every((each) => each !== undefined) === true;
  const standing = { read, checked, rehearsed };
  const changed = useMemo(() => JSON.stringify(document) !== JSON.stringify(detail.live), [document, detail.live]);
  const draft = {
    detail,
    document,
    mayEdit,
    change,
    undo,
    redo,
    saving,
    flush,
    samples,
    systems,
    schemas,
    readAll,
    allRead,
    standing,
    findings,
    facts,
    rehearsal,
    changed,
  };
  return <Context.Provider value={draft}>{children}</Context.Provider>;
}

/** The document with its history, saved by itself a moment after the last change and when the page is left. */
function useDocument(detail: IntakeDetail, mayEdit: boolean) {
  const client = useQueryClient();
  const [history, setHistory] = useState(() => begun(detail.intake.draft));
  const [saving, setSaving] = useState<Saving>('saved');
  const state = useRef({
    saved: detail.intake.draft,
    latest: detail.intake.draft,
    revision: detail.intake.revision,
    running: Promise.resolve(),
    stuck: false,
  });
  state.current.latest = history.now;
  const id = detail.intake.id;

  const save = useCallback(async (): Promise<void> => {
    const now = state.current;
    if (now.latest === now.saved || now.stuck) return;
    const document = now.latest;
    setSaving('saving');
    try {
      const { revision } = await call('put /intakes/:id/draft', {
        params: { id },
        body: {
          revision: now.revision,
          document,
        },
      });
      now.revision = revision;
      now.saved = document;
      setSaving('saved');
      client.setQueryData<IntakeDetail>(
        ['intakes', id],
        (held) => held && { ...held, intake: { ...held.intake, draft: document, revision } },
      );
    } catch (error) {
      const overtaken = error instanceof ApiProblem && error.status === 412;
      now.stuck = overtaken;
      setSaving(overtaken ? 'overtaken' : { failed: error instanceof Error ? error.message : 'unknown' });
      throw error;
    }
  }, [id, client]);

  // One save at a time, each from the revision the one before made.
  const flush = useCallback(async (): Promise<number> => {
    const next = state.current.running.catch(() => undefined).then(save);
    state.current.running = next;
    await next;
    return state.current.revision;
  }, [save]);

  useEffect(() => {
    if (!mayEdit || history.now === state.current.saved) return;
    const timer = setTimeout(() => void flush().catch(() => undefined), SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [history.now, flush, mayEdit]);
  useEffect(() => () => void flush().catch(() => undefined), [flush]);
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent): void => {
      if (state.current.latest !== state.current.saved) event.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => window.removeEventListener('beforeunload', leave);
  }, []);

  const change = useCallback(
    (work: (document: IntakeDocument) => IntakeDocument) => setHistory((held) => changed(held, work)),
    [],
  );
  const undo = useCallback(() => setHistory(undone), []);
  const redo = useCallback(() => setHistory(redone), []);
  return { document: history.now, change, undo, redo, saving, flush };
}

function useSampleLines(
  id: string,
  document: IntakeDocument,
  schemas: ReadonlyMap<string, Schema>,
  mayEdit: boolean,
): SampleLine[] {
  const kept = useSamples(id);
  const isConversion = document.source.kind === 'record';
  const past = usePast(id, mayEdit && !isConversion);
  const records = useConvertible(id, mayEdit && isConversion);
  const real = useMemo(() => {
    const known = new Set<string>();
    const lines: SampleLine[] = [];
    const add = (line: SampleLine): void => {
      // A past submission that was kept as a sample is shown once.
      const content = JSON.stringify(Object.entries(line.values).sort());
      if (!known.has(content)) lines.push(line);
      known.add(content);
    };
    // What a conversion would do is seen on records as they are now.
    for (const { id: at, label, values } of records.data ?? [])
      add({ id: at, title: label || at, values, at: '', kept: false, record: true });
    if (isConversion) return lines;
    for (const { id: at, values, createdAt } of kept.data ?? [])
      add({ id: at, title: titleOf(document.fields, values) || 'a sample', values, at: createdAt, kept: true });
    for (const { id: at, label, values, receivedAt } of past.data ?? [])
      add({ id: at, title: label || 'a submission', values, at: receivedAt, kept: false });
    return lines.slice(0, 50);
  }, [kept.data, past.data, records.data, isConversion, document.fields]);
  const told = isConversion ? records.data : past.data;
  const none = kept.data !== undefined && (told !== undefined || !mayEdit) && real.length === 0;
  const { fields, plan, settings } = document;
  const madeUp = useMemo(() => {
    const values = none ? madeUpSample({ fields, plan, schemas, settings }) : {};
    return Object.keys(values).length === 0 ? '' : JSON.stringify(values);
  }, [none, fields, plan, schemas, settings]);
  // By its text: an edit that leaves the values alone doesn't make another sample.
  return useMemo(
    () => (madeUp === '' ? real : [madeUpLine(fields, JSON.parse(madeUp) as SubmittedValues)]),
    [real, madeUp, fields],
  );
}

/** Under which id the made-up sample stands in addresses. */
const MADE_UP = 'made-up';

const madeUpLine = (fields: IntakeDocument['fields'], values: SubmittedValues): SampleLine => ({
  id: MADE_UP,
  title: titleOf(fields, values) || 'a sample',
  values,
  at: '',
  kept: false,
  madeUp: true,
});

/** The schemas that the plan writes to are read at once; those of all other systems when somebody is to choose among them. */
function useSchemas(document: IntakeDocument) {
  const systems = useSystems();
  const [all, setAll] = useState(false);
  const readAll = useCallback(() => setAll(true), []);
  const known = systems.data?.map(({ id }) => id) ?? [];
  const written = [
    ...new Set([
      ...document.plan.steps.map(({ system }) => system),
      ...(document.source.system === undefined ? [] : [document.source.system]),
      ...(document.form ? standingsOf(document.form).flatMap(({ item }) => item.reads?.system ?? []) : []),
    ]),
  ];
  const wanted = all ? [...new Set([...written, ...known])] : written;
  const { schemas, settled } = useQueries({
    queries: wanted.map((id) => ({ ...systemQuery(id), staleTime: 15_000 })),
    combine: collected,
  });
  return {
    systems: systems.data ?? NO_SYSTEMS,
    schemas: useSame(schemas),
    // One that can't be read counts as read: its steps say that the system isn't there.
    read: written.every((id) => settled.has(id)),
    readAll,
    allRead: all && systems.data !== undefined && known.every((id) => settled.has(id)),
  };

  function collected(results: UseQueryResult<SystemDetail>[]) {
    return {
      schemas: new Map(results.flatMap(({ data }) => (data ? [[data.system.id, data.schema] as const] : []))),
      settled: new Set(results.flatMap(({ isPending }, at) => (isPending ? [] : [wanted[at]!]))),
    };
  }
}

const NO_SYSTEMS: System[] = [];

/** The map as it was, while it holds the same. */
function useSame<T>(map: Map<string, T>): ReadonlyMap<string, T> {
  const held = useRef(map);
  const same = held.current.size === map.size && [...map].every(([key, value]) => held.current.get(key) === value);
  if (!same) held.current = map;
  return held.current;
}

/** What is known besides the document; what its page holds now is asked of the page. */
function useDraftFacts(id: string, document: IntakeDocument, mayEdit: boolean): Facts | undefined {
  const known = useFacts(id);
  const page = document.source.page;
  const whole = page !== undefined && /^https?:\/\/[^/]+/.test(page) ? page : undefined;
  const forms = usePageForms(useRested(whole, 800), mayEdit && document.fields.length > 0);
  return useMemo(() => {
    if (!known.data) return known.isError ? NO_FACTS : undefined;
    const form = forms.data && formOn(forms.data, document.source.formName);
    return form ? { ...known.data, pageFields: form.fields } : known.data;
    // Only the form's name matters of the document here.
  }, [known.data, known.isError, forms.data, document.source.formName]);
}

const NO_FACTS: Facts = {};

const NO_FINDINGS: Finding[] = [];

/** Checks run as one edits, off the main thread; the last findings stay until new ones are there. */
function useFindings(
  document: IntakeDocument,
  schemas: ReadonlyMap<string, Schema>,
  samples: SampleLine[],
  facts: Facts | undefined,
  read: boolean,
): { findings: Finding[]; checked: boolean } {
  const [found, setFound] = useState<{ findings: Finding[]; of: readonly unknown[] }>();
  const of = useMemo(() => [document, schemas, samples, facts], [document, schemas, samples, facts]);
  useEffect(() => {
    if (!read || !facts) return;
    let current = true;
    void worker()
      .check(document, { schemas: new Map(schemas), samples: samples.map(({ values }) => values), facts })
      .then((findings) => current && setFound({ findings, of }));
    return () => {
      current = false;
    };
  }, [document, schemas, samples, facts, read, of]);
  return { findings: found?.findings ?? NO_FINDINGS, checked: found?.of === of };
}

/**
 * What the samples would come to, sample by sample as it stands: until a sample's result is there, the one it had before
 * stands in its place. Samples stay on the server; only their ids go there.
 */
function useRehearsal(id: string, document: IntakeDocument, samples: SampleLine[], enabled: boolean): Rehearsal {
  const client = useQueryClient();
  const settled = useRested(document, 400);
  const ids = useMemo(() => samples.map((each) => each.id), [samples]);
  // The made-up sample has no id that the server knows; its values are what tells one from another.
  const byValues = samples[0]?.madeUp === true || samples[0]?.record === true;
  const madeUp = byValues ? samples.map(({ values }) => values) : undefined;
  const anew = useRef(false);
  const latest = useRef<ReadonlyMap<string, Rehearsed>>(new Map());
  const key = ['rehearsal', id, settled, ids, madeUp];
  const query = useQuery({
    queryKey: key,
    queryFn: async ({ signal }) => {
      const results = ids.map((each) => latest.current.get(each));
      const what = byValues ? { samples: samples.map(({ values }) => values) } : { of: ids };
      const body = { document: settled, ...what, ...(anew.current ? { anew: true } : {}) };
      anew.current = false;
      await apiLines<{ at: number; result: Rehearsed }>(
        `/intakes/${id}/rehearse`,
        body,
        ({ at, result }) => {
          results[at] = result;
          client.setQueryData(key, [...results]);
        },
        signal,
      );
      return results;
    },
    enabled: enabled && ids.length > 0 && settled.plan.steps.length > 0,
    placeholderData: keepPreviousData,
    staleTime: 10_000,
    gcTime: 30_000,
  });
  useEffect(() => {
    if (query.data && !query.isPlaceholderData)
      latest.current = new Map(query.data.flatMap((result, at) => (result ? [[ids[at]!, result] as const] : [])));
  }, [query.data, query.isPlaceholderData, ids]);
  const again = (): void => {
    anew.current = true;
    void query.refetch();
  };
  const current = settled === document && !query.isFetching && !query.isPlaceholderData && query.data !== undefined;
  return { data: query.data, error: query.error, isFetching: query.isFetching, current, again };
}

/** A value once it has rested for a while. */
function useRested<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return rested;
}
