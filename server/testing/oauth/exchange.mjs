import { createServer } from 'node:http';
import { createLocalJWKSet, jwtVerify } from 'jose';
import Provider from 'oidc-provider';

/**
 * An authorization server that nobody here wrote (oidc-provider), with the grant of RFC 8693 as its own documentation shows
 * a custom one: a JWT signed with one of its keys is exchanged for an access token. It says at which port it listens, and
 * its keys are given as JSON.
 */
const jwks = JSON.parse(process.argv[2]);
const EXCHANGE = 'urn:ietf:params:oauth:grant-type:token-exchange';
const server = createServer();
server.listen(0, '127.0.0.1', () => {
  const { port } = server.address();
  const issuer = `http://127.0.0.1:${port}`;
  const provider = new Provider(issuer, {
    jwks,
    clients: [
      {
        client_id: 'panel client',
        client_secret: 'a secret: with % and +',
        grant_types: [EXCHANGE],
        redirect_uris: [],
        response_types: [],
        token_endpoint_auth_method: 'client_secret_basic',
        id_token_signed_response_alg: 'ES256',
      },
    ],
    features: { devInteractions: { enabled: false }, resourceIndicators: { enabled: false } },
    ttl: { AccessToken: 120 },
    findAccount: (_ctx, id) => ({ accountId: id, claims: () => ({ sub: id }) }),
  });
  const open = { keys: jwks.keys.map(({ d: _, ...shown }) => shown) };
  provider.registerGrantType(
    EXCHANGE,
    async (ctx, next) => {
      const { subject_token: subject } = ctx.oidc.params;
      try {
        const { payload } = await jwtVerify(subject, createLocalJWKSet(open), { issuer });
        const token = new provider.AccessToken({
          accountId: payload.sub,
          client: ctx.oidc.client,
          scope: '',
          gty: 'exchange',
        });
        ctx.body = {
          access_token: await token.save(),
          issued_token_type: 'urn:ietf:params:oauth:token-type:access_token',
          token_type: token.tokenType,
          expires_in: token.expiration,
        };
      } catch {
        ctx.status = 400;
        ctx.body = { error: 'invalid_grant', error_description: 'the subject token is not good' };
      }
      await next();
    },
    ['subject_token', 'subject_token_type', 'requested_token_type', 'resource'],
  );
  provider.on('server_error', (_ctx, error) => console.error(error));
  server.on('request', provider.callback());
  console.log(`listening on ${port}`);
});
