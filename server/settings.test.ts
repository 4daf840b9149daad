import { settingsFrom, UnusableSettings } from './settings.ts';

const DATABASE_URL = 'mysql://u:p@db/zusammen';
const read = (env: Record<string, string>) => settingsFrom({ DATABASE_URL, ...env });

it('a real installation keeps its cookies to HTTPS, and reaches what it is told to', () => {
  expect(read({ ZUSAMMEN_ADDRESS: 'https://forms.example.org/', ZUSAMMEN_REACH: 'public' })).toMatchObject({
    reach: 'public',
    host: '127.0.0.1',
    http: { publicAddress: 'https://forms.example.org', secureCookies: true, trustedProxies: ['loopback'] },
  });
});
it('a demo on this machine reaches its stand-ins, and goes without HTTPS', () => {
  const settings = read({ ZUSAMMEN_DEMO_FROM: 'http://localhost:4610' });
  expect(settings).toMatchObject({ http: { publicAddress: 'http://localhost:4600' } });
  expect(settings).not.toHaveProperty('reach');
  expect(settings.http).not.toHaveProperty('secureCookies');
});
it('proxies are named by address, range or as loopback', () => {
  const { http } = read({ ZUSAMMEN_TRUSTED_PROXIES: 'loopback, 10.0.0.0/8, 2001:db8::1' });
  expect(http.trustedProxies).toEqual(['loopback', '10.0.0.0/8', '2001:db8::1']);
});

it.each([
  ['no database', { DATABASE_URL: '' }, /DATABASE_URL is missing/],
  ['a database without a name', { DATABASE_URL: 'mysql://u:p@db/' }, /names no database/],
  ['another kind of database', { DATABASE_URL: 'postgres://db/x' }, /DATABASE_URL/],
  ['no port', { PORT: 'eighty' }, /PORT is a port number, not “eighty”/],
  ['an address that is none', { ZUSAMMEN_ADDRESS: 'forms.example.org' }, /ZUSAMMEN_ADDRESS is a web address/],
  ['an address with a path', { ZUSAMMEN_ADDRESS: 'https://example.org/forms' }, /without a path/],
  ['everybody as a proxy', { ZUSAMMEN_TRUSTED_PROXIES: '0.0.0.0/0' }, /let anybody say who they are/],
  ['a proxy by name', { ZUSAMMEN_TRUSTED_PROXIES: 'proxy.internal' }, /“proxy.internal”/],
  ['secure cookies without HTTPS', { ZUSAMMEN_ADDRESS: 'http://forms.example.org' }, /never come back/],
  ['a reach that is none', { ZUSAMMEN_REACH: 'some' }, /any or public/],
  [
    'a demo that may not reach itself',
    { ZUSAMMEN_REACH: 'public', ZUSAMMEN_DEMO_FROM: 'http://localhost:4610' },
    /keep the demo/,
  ],
  ['neither yes nor no', { ZUSAMMEN_SECURE_COOKIES: 'maybe' }, /yes or no/],
])('%s is refused in words', (_what, env, words) => {
  expect(() => read(env as Record<string, string>)).toThrow(words);
  expect(() => read(env as Record<string, string>)).toThrow(UnusableSettings);
});
it('everything that is wrong is said at once', () => {
  expect(() => read({ PORT: 'x', ZUSAMMEN_REACH: 'y', ZUSAMMEN_TRUSTED_PROXIES: 'z' })).toThrow(
    /PORT[^]*PROXIES[^]*REACH/,
  );
});
