export { JsonSystem } from './client.ts';
export { AdapterTrouble, capabilitiesOf, describeByAdapter } from './connect.ts';
export { HeldIndex, heldRecord, type RecordIndex } from './index-of-records.ts';
export { LeadsElsewhere, lookAt, lookingSend, type Look, type LookedAt } from './look.ts';
export { withBearer, withSignIn } from './sign-in.ts';
export {
  fetchToken,
  oauthClient,
  ownToken,
  SharedTokens,
  tokenFrom,
  type FetchedToken,
  type SignInSecrets,
  type TokenSource,
} from './tokens.ts';
export { tryAdapter, type TrialSettings } from './trial.ts';
export { withoutAnswer } from './trial-parts.ts';
