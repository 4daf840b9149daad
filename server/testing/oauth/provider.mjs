import { createServer } from 'node:http';
import Provider from 'oidc-provider';

/**
 * An authorization server that nobody here wrote (oidc-provider), as a process of its own: client credentials, and the
 * authorization code with PKCE and refresh tokens that are good for one time. It says at which port it listens.
 */
const lasts = Number(process.argv[2] ?? 300);
const redirect = process.argv[3] ?? 'http://127.0.0.1:1/systems/signed-in';
const server = createServer();
server.listen(0, '127.0.0.1', () => {
  const { port } = server.address();
  const provider = new Provider(`http://127.0.0.1:${port}`, {
    clients: [
      {
        client_id: 'machine',
        client_secret: 'machine-secret',
        grant_types: ['client_credentials'],
        redirect_uris: [],
        response_types: [],
        token_endpoint_auth_method: 'client_secret_basic',
      },
      {
        client_id: 'posted',
        client_secret: 'posted-secret',
        grant_types: ['client_credentials'],
        redirect_uris: [],
        response_types: [],
        token_endpoint_auth_method: 'client_secret_post',
      },
      {
        client_id: 'person',
        client_secret: 'person-secret',
        grant_types: ['authorization_code', 'refresh_token'],
        redirect_uris: [redirect],
      },
    ],
    features: {
      clientCredentials: { enabled: true },
      introspection: { enabled: true },
      devInteractions: { enabled: true },
    },
    pkce: { required: () => true },
    ttl: {
      ClientCredentials: lasts,
      AccessToken: lasts,
      RefreshToken: 3600,
      AuthorizationCode: 60,
      Grant: 3600,
      Session: 3600,
      Interaction: 600,
    },
    issueRefreshToken: () => true,
    rotateRefreshToken: true,
    findAccount: (_ctx, id) => ({ accountId: id, claims: () => ({ sub: id }) }),
  });
  provider.on('server_error', (_ctx, error) => console.error(error));
  let fetched = 0;
  const handle = provider.callback();
  server.on('request', (request, response) => {
    if (request.url === '/fetched') return void response.end(String(fetched));
    if (request.url?.startsWith('/token') && !request.url.includes('introspection')) fetched += 1;
    return void handle(request, response);
  });
  console.log(`listening on ${port}`);
});
