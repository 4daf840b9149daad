// The watching process of watch.ts: it asks, one question at a time of each, and remembers the longest wait.
import { Agent, createServer, request } from 'node:http';

const address = process.argv[2];
const bare = createServer((_request, response) => response.end('{"status":"ok"}'));
await new Promise((resolve) => bare.listen(0, '127.0.0.1', resolve));
const worst = { health: 0, bare: 0, wrong: 0 };
const since = { health: undefined, bare: undefined };

function ask(name, url, agent) {
  const started = performance.now();
  since[name] = started;
  const done = (status) => {
    worst[name] = Math.max(worst[name], performance.now() - started);
    if (status !== 200 && name === 'health') worst.wrong += 1;
    setTimeout(() => ask(name, url, agent), 20);
  };
  const sent = request(url, { agent }, (response) => {
    response.resume();
    response.once('end', () => done(response.statusCode));
  });
  sent.setTimeout(60_000, () => sent.destroy());
  sent.once('error', () => done(0));
  sent.end();
}
ask('health', `${address}/api/health`, new Agent({ keepAlive: true }));
ask('bare', `http://127.0.0.1:${bare.address().port}/`, new Agent({ keepAlive: true }));

process.on('message', () => {
  const now = performance.now();
  for (const name of ['health', 'bare']) worst[name] = Math.max(worst[name], now - (since[name] ?? now));
  process.send({ ...worst });
  Object.assign(worst, { health: 0, bare: 0, wrong: 0 });
});
process.on('disconnect', () => process.exit(0));
