import { json, together, type Attack } from './arena.ts';
import { many } from './many.ts';

const AT_ONCE = 40;

/** What anybody can send to a form that reads records, takes files and is paid. */
export const visitors: Attack = {
  name: 'look-ups, choices, files and payment events without end, forty at once',
  run: async ({ post, size, address }) => {
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
    await sendAll('/f/swarm-report/file?question=photo', () => bytes, {
      'Content-Type': 'application/octet-stream',
    });
    const multipart = (): FormData => {
      const data = new FormData();
      for (let at = 0; at < 18; at += 1)
        data.append(`file${at}`, new Blob([bytes.subarray(0, 500_000)]), `${'../'.repeat(100)}${at}.svg`);
      return data;
    };
    await sendAll(contract, multipart);
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
