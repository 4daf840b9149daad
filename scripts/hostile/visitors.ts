import { formOf, item } from '../../core/testing/hosted.ts';
import { json, together, type Arena, type Attack } from './arena.ts';
import { many } from './many.ts';

const AT_ONCE = 40;

/** What anybody can send to a form that reads records, takes files and is paid. */
export const visitors: Attack = {
  name: 'look-ups, choices, files and payment events without end, forty at once',
  run: async ({ ask, post, size, address }) => {
    const taking = await formWithFiles(ask);
    const statuses: number[] = [];
    const times = Math.max(4, Math.ceil(AT_ONCE * size));
    const long = Math.ceil(900 * size);
    const sendAll = async (
      path: string,
      body: () => Parameters<typeof post>[1],
      headers: Record<string, string> = {},
    ): Promise<void> => {
      statuses.push(...(await together(times, () => post(path, body(), { Accept: 'application/json', ...headers }))));
    };
    const contract = '/f/contract-change';
    const sealed = `v1.${'A'.repeat(850)}`;
    await sendAll(
      `${contract}/read`,
      () => new URLSearchParams({ _question: 'organisation', _text: `%'_"${Math.random()}` }),
    );
    await sendAll(
      `${contract}/read`,
      () => new URLSearchParams(Array.from({ length: long }, (_, at): [string, string] => [`_question[${at}]`, 'x'])),
    );
    await sendAll(
      `${contract}/read`,
      () => new URLSearchParams({ _question: 'organisation', _chosen: 'x'.repeat(250) }),
    );
    await sendAll(
      contract,
      () => new URLSearchParams(Array.from({ length: long }, (): [string, string] => ['_offer', sealed])),
    );
    await sendAll(
      contract,
      () => new URLSearchParams({ organisation: 'O-00001', signed_drawn: `M1 1${many(19_000 * size, () => 'L1 1')}` }),
    );
    await sendAll(contract, () => new URLSearchParams({ _work: `{"challenge":${'['.repeat(3_000)}` }));
    const bytes = Buffer.alloc(Math.ceil(9 * 1024 * 1024 * size), 'PK\u0003\u0004');
    await sendAll(`/f/${taking}/file?question=photo`, () => bytes, {
      'Content-Type': 'application/octet-stream',
    });
    // Sound whose marks lead to marks: gone through to its end it would take long.
    const marks = Buffer.alloc(bytes.length, Buffer.from('ID3\u0003\0\0\0\0\0\0', 'latin1'));
    await sendAll(`/f/${taking}/file?question=photo`, () => marks, { 'Content-Type': 'application/octet-stream' });
    const multipart = (): FormData => {
      const data = new FormData();
      for (let at = 0; at < 18; at += 1)
        data.append(`file${at}`, new Blob([bytes.subarray(0, 500_000)]), `${'../'.repeat(100)}${at}.svg`);
      return data;
    };
    await sendAll(contract, multipart);
    await sendAll(`/f/${taking}`, multipart);
    for (const path of ['/payments/none', '/payments/01a21f64-5706-747e-bfda-fbadd03f0c9b'])
      await sendAll(path, () => json({ type: 'payment.paid', data: { reference: 'x'.repeat(60_000 * size) } }), {
        'Content-Type': 'application/json',
      });
    const paths = [
      `/files/${'A'.repeat(43)}`,
      `${contract}/pay?s=${sealed.slice(0, 390)}`,
      `${contract}/thanks?s=${sealed.slice(0, 390)}&looks=1e9`,
      `${contract}/filled?s=x`,
    ];
    for (const path of paths)
      statuses.push(
        ...(await together(times, async () => (await fetch(`${address}${path}`, { redirect: 'manual' })).status)),
      );
    return statuses;
  },
};

/** A form that takes files, made by the API. @returns its key */
async function formWithFiles(ask: Arena['ask']): Promise<string> {
  const key = 'files-under-attack';
  const { intakes = [] } = (await ask('GET', '/intakes')).body;
  const like = intakes.find((each) => each.key === 'pollination-enquiry')!;
  const { draft } = (await ask('GET', `/intakes/${like.id}`)).body.intake!;
  const form = formOf([item('text', 'contact_last'), item('file', 'photo'), ...eighteen()], {
    guard: { trap: true, leastSeconds: 0 },
  });
  const steps = draft.plan.steps.map((step) => ({
    ...step,
    lines: step.lines.filter(({ from }) => from.every((name) => name === 'contact_last')),
    recognise: [],
  }));
  const document = {
    ...draft,
    source: { kind: 'ours' },
    form,
    fields: [],
    plan: { steps },
    settings: { perMinute: 6000 },
  };
  const made = (await ask('POST', '/intakes', json({ key, document }))).body.intake!;
  await ask('POST', `/intakes/${made.id}/publish`, json({ revision: 1, accept: true }));
  return key;
}

const eighteen = () =>
  Array.from({ length: 18 }, (_, at) => item('file', `file${at}`, { accepts: ['text', 'sheet', 'picture'] }));
