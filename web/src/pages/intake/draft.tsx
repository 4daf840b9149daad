import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Facts, Finding } from '@zusammen/core/checks';
import { formOn, type SubmittedValues } from '@zusammen/core/forms';
import { titleOf } from '@zusammen/core/mapping';
import type { IntakeDocument } from '@zusammen/core/intake';
import { begun, changed, redone, undone } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { call, apiLines, ApiProblem } from '../../api/client.ts';
import { useFacts, useMe, usePageForms, usePast, useSamples, useSystems } from '../../api/hooks.ts';
import type { IntakeDetail, Rehearsed, System } from '@zusammen/core/api';
import { worker } from '../../work/index.ts';

/** One sample: kept with the intake, or a past submission. */
export interface SampleLine {
  id: string;
  title: string;
  values: SubmittedValues;
  at: string;
  kept: boolean;
}

/** What the samples would come to, in their order; undefined where a result doesn't stand yet. */
export interface Rehearsal {
  data: readonly (Rehearsed | undefined)[] | undefined;
  error: Error | null;
  isFetching: boolean;
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
  schemas: Map<string, Schema>;
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
  const samples = useSampleLines(detail.intake.id, document, mayEdit);
  const { systems, schemas } = useSchemas();
  const facts = useDraftFacts(detail.intake.id, document, mayEdit);
  const findings = useFindings(document, schemas, samples, facts);
  const rehearsal = useRehearsal(detail.intake.id, document, samples, mayEdit && schemas.size > 0);
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

function useSampleLines(id: string, document: IntakeDocument, mayEdit: boolean): SampleLine[] {
  const kept = useSamples(id);
  const past = usePast(id, mayEdit);
  return useMemo(() => {
    const known = new Set<string>();
    const lines: SampleLine[] = [];
    const add = (line: SampleLine): void => {
      // A past submission that was kept as a sample is shown once.
      const content = JSON.stringify(Object.entries(line.values).sort());
      if (!known.has(content)) lines.push(line);
      known.add(content);
    };
    for (const { id: at, values, createdAt } of kept.data ?? [])
      add({ id: at, title: titleOf(document.fields, values) || 'a sample', values, at: createdAt, kept: true });
    for (const { id: at, label, values, receivedAt } of past.data ?? [])
      add({ id: at, title: label || 'a submission', values, at: receivedAt, kept: false });
    return lines.slice(0, 50);
  }, [kept.data, past.data, document.fields]);
}

function useSchemas() {
  const systems = useSystems();
  const ids = (systems.data ?? []).map(({ id }) => id).join(',');
  const read = useQuery({
    queryKey: ['schemas', ids],
    queryFn: async () => Promise.all(ids.split(',').map((id) => call('get /systems/:id', { params: { id } }))),
    enabled: ids !== '',
    staleTime: 15_000,
    placeholderData: keepPreviousData,
  });
  const schemas = useMemo(
    () => new Map((read.data ?? []).map(({ system, schema }) => [system.id, schema])),
    [read.data],
  );
  return { systems: systems.data ?? [], schemas };
}

/** What is known besides the document; what its page holds now is asked of the page. */
function useDraftFacts(id: string, document: IntakeDocument, mayEdit: boolean): Facts | undefined {
  const known = useFacts(id);
  const page = document.source.page;
  const whole = page !== undefined && /^https?:\/\/[^/]+/.test(page) ? page : undefined;
  const forms = usePageForms(useRested(whole, 800), mayEdit && document.fields.length > 0);
  return useMemo(() => {
    if (!known.data) return undefined;
    const form = forms.data && formOn(forms.data, document.source.formName);
    return form ? { ...known.data, pageFields: form.fields } : known.data;
    // Only the form's name matters of the document here.
  }, [known.data, forms.data, document.source.formName]);
}

/** Checks run as one edits, off the main thread; the last findings stay until new ones are there. */
function useFindings(
  document: IntakeDocument,
  schemas: Map<string, Schema>,
  samples: SampleLine[],
  facts: Facts | undefined,
): Finding[] {
  const [findings, setFindings] = useState<Finding[]>([]);
  useEffect(() => {
    if (schemas.size === 0) return;
    let current = true;
    void worker()
      .check(document, { schemas, samples: samples.map(({ values }) => values), ...(facts ? { facts } : {}) })
      .then((found) => current && setFindings(found));
    return () => {
      current = false;
    };
  }, [document, schemas, samples, facts]);
  return findings;
}

/**
 * What the samples would come to, sample by sample as it stands: until a sample's result is there, the one it had before
 * stands in its place. Samples stay on the server; only their ids go there.
 */
function useRehearsal(id: string, document: IntakeDocument, samples: SampleLine[], enabled: boolean): Rehearsal {
  const client = useQueryClient();
  const settled = useRested(document, 400);
  const ids = useMemo(() => samples.map((each) => each.id), [samples]);
  const anew = useRef(false);
  const latest = useRef<ReadonlyMap<string, Rehearsed>>(new Map());
  const key = ['rehearsal', id, settled, ids];
  const query = useQuery({
    queryKey: key,
    queryFn: async ({ signal }) => {
      const results = ids.map((each) => latest.current.get(each));
      const body = { document: settled, of: ids, ...(anew.current ? { anew: true } : {}) };
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
  return { data: query.data, error: query.error, isFetching: query.isFetching, again };
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
