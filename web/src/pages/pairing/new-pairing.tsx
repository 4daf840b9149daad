import { useMutation, useQueries } from '@tanstack/react-query';
import type { PairingProposal } from '@zusammen/core/api';
import { aroundOf, matchInWords, placeName, type PairedEntity } from '@zusammen/core/pairing';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { call, type ApiProblem } from '../../api/client.ts';
import { systemQuery, useDo, useSystems } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { Combobox, type Item } from '../../parts/combobox.tsx';
import { Editable } from '../../parts/editable.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Skeleton, Trouble } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';

/** Two entities, and what is proposed for them by their records. */
export function NewPairing() {
  const navigate = useNavigate();
  const { items, schemas, loading } = useEntities();
  const [left, setLeft] = useState<PairedEntity>();
  const [right, setRight] = useState<PairedEntity>();
  const propose = useMutation<PairingProposal, ApiProblem, { left: PairedEntity; right: PairedEntity }>({
    mutationFn: (body) => call('post /pairings/propose', { body }),
  });
  const make = useDo(
    (document: PairingProposal['document']) => call('post /pairings', { body: { document } }),
    ['pairings'],
  );
  const choose = (side: 'left' | 'right', value: string): void => {
    const [system, entity] = JSON.parse(value) as [string, string];
    const chosen = { system, entity };
    const both = side === 'left' ? { left: chosen, right } : { left, right: chosen };
    if (side === 'left') setLeft(chosen);
    else setRight(chosen);
    if (both.left && both.right) propose.mutate({ left: both.left, right: both.right });
  };
  const shown = (chosen: PairedEntity | undefined): string =>
    items.find(({ value }) => value === JSON.stringify([chosen?.system, chosen?.entity]))?.words ?? 'choose an entity';
  const proposal = propose.data;
  const around = proposal && {
    left: aroundOf(proposal.document, 'left', schemas),
    right: aroundOf(proposal.document, 'right', schemas),
  };
  return (
    <>
      <Heading crumbs={<Link to="/pairings">Pairings /</Link>} title="New pairing" />
      <Sheet>
        <p className="px-4 py-4 text-[15px] leading-8">
          Keep{' '}
          <EntityChoice
            label="Left side"
            shown={<Incoming muted={!left}>{shown(left)}</Incoming>}
            items={items}
            loading={loading}
            choose={(value) => choose('left', value)}
          />{' '}
          in step with{' '}
          <EntityChoice
            label="Right side"
            shown={<Outgoing muted={!right}>{shown(right)}</Outgoing>}
            items={items}
            loading={loading}
            choose={(value) => choose('right', value)}
          />
          .
        </p>
      </Sheet>
      {propose.isPending && (
        <Sheet className="mt-4" title="Reading records of both …">
          <Skeleton rows={4} />
        </Sheet>
      )}
      {propose.error && (
        <Trouble error={propose.error} retry={() => left && right && propose.mutate({ left, right })} />
      )}
      {proposal && around?.left && around.right && !propose.isPending && (
        <>
          <Sheet className="mt-4" title="Which goes with which" aside="measured on the records">
            {proposal.matches.length === 0 ? (
              <p className="px-4 py-3">
                Nothing on the records says which goes with which. It can be said by hand in the pairing.
              </p>
            ) : (
              <ul>
                {proposal.matches.map(({ match, measured: { pairs, unsure, of } }, at) => (
                  <li
                    key={JSON.stringify(match)}
                    className="flex flex-wrap items-center gap-3 border-t border-hair px-4 py-2 first:border-t-0"
                  >
                    <span className="text-soft">{at === 0 ? 'by' : 'else by'}</span>
                    <strong className="font-semibold">
                      {matchInWords(match, { left: around.left!, right: around.right! })}
                    </strong>
                    <span className="text-small text-soft">
                      finds <span className="font-mono text-ink">{count(pairs)}</span> pairs among {count(of.left)}{' '}
                      {around.left!.entity.label} and {count(of.right)} {around.right!.entity.label}
                    </span>
                    {unsure > 0 && <Tag tone="saffron">{count(unsure)} with several</Tag>}
                  </li>
                ))}
              </ul>
            )}
          </Sheet>
          <Sheet className="mt-4" title="Fields that seem to be the same">
            <ul className="px-4 py-2 leading-8">
              {proposal.document.lines.map((line) => (
                <li key={line.id} className="flex flex-wrap items-center gap-2">
                  <Incoming muted={line.suggested !== undefined}>{placeName(line.left, around.left)}</Incoming>
                  <span aria-label={line.way}>{line.way === 'both' ? '⇄' : line.way === 'to right' ? '→' : '←'}</span>
                  <Outgoing muted={line.suggested !== undefined}>{placeName(line.right, around.right)}</Outgoing>
                  {line.suggested !== undefined && <Tag>waits for a yes</Tag>}
                </li>
              ))}
              {proposal.document.lines.length === 0 && <li>None; they can be linked by hand in the pairing.</li>}
            </ul>
          </Sheet>
          <div className="mt-4 flex items-center justify-end gap-3">
            {make.error && <span className="text-brick">{make.error.message}</span>}
            <span className="text-soft">Nothing is written until it is started.</span>
            <Button
              look="strong"
              busy={make.isPending}
              onClick={() =>
                make.mutate(proposal.document, { onSuccess: ({ id }) => void navigate(`/pairings/${id}`) })
              }
            >
              Make this pairing
            </Button>
          </div>
        </>
      )}
    </>
  );
}

/** One side of the sentence: an entity among those of all systems. */
function EntityChoice({
  label,
  shown,
  items,
  loading,
  choose,
}: {
  label: string;
  shown: ReactNode;
  items: readonly Item[];
  loading: boolean;
  choose: (value: string) => void;
}) {
  return (
    <Editable label={label} wide bare shown={shown}>
      {(close) => (
        <Combobox
          placeholder="Find an entity"
          items={items}
          loading={loading}
          choose={(value) => {
            choose(value);
            close();
          }}
        />
      )}
    </Editable>
  );
}

/** The entities of all systems that can be read, to choose from. */
function useEntities() {
  const systems = useSystems();
  const details = useQueries({
    queries: (systems.data ?? []).map(({ id }) => ({ ...systemQuery(id), staleTime: 60_000 })),
  });
  const read = details.flatMap(({ data }) => (data ? [data] : []));
  const schemas = new Map(read.map(({ system, schema }) => [system.id, schema]));
  const items: Item[] = read.flatMap(({ system, schema }) =>
    schema.entities
      .filter(({ rights }) => rights.read)
      .map(({ name, label, fields }) => ({
        value: JSON.stringify([system.id, name]),
        label,
        words: `${system.name}: ${label}`,
        note: `${fields.length} fields`,
        group: system.name,
      })),
  );
  return { items, schemas, loading: systems.isPending || details.some(({ isPending }) => isPending) };
}
