import type { AdapterDifference, AdapterDocument, AdapterTrial } from '../adapters/index.ts';
import type { Facts } from '../checks/index.ts';
import type { DefinitionDocument } from '../definitions/index.ts';
import type { ReadForm } from '../forms/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import type { LostPart, RequiredPart, UnfitPart } from '../lost/index.ts';
import type { Learned, SuggestedLine } from '../mapping/index.ts';
import type { ReferenceSeen } from '../new-entities/index.ts';
import type { StepReport } from '../plans/index.ts';
import type { Difference, OpenRename, RecordState, Schema } from '../schema/index.ts';
import type * as bodies from './bodies.ts';
import type * as intakes from './intakes.ts';
import type * as pairings from './pairings.ts';
import type * as pairingBodies from './pairing-bodies.ts';
import type * as people from './people.ts';
import type * as recognition from './recognition.ts';
import type * as recognitionBodies from './recognition-bodies.ts';
import type * as schemaBodies from './schema-bodies.ts';
import type * as schemas from './schema-changes.ts';
import type * as submissions from './submissions.ts';
import type * as systems from './systems.ts';

/** How far a list goes: at most so many, and where the next part of it begins. */
export interface ListPart {
  /** How many at most. */
  limit?: string;
  /** Only what came before this one: the last of the part before. */
  before?: string;
}
/** From a moment, and before another (ISO 8601). */
export interface Period {
  from?: string;
  to?: string;
}
export interface SubmissionSearch extends ListPart, Period {
  intake?: string;
  /** Of what it waits for, as `get /review` names it. */
  cause?: string;
  /** A state, or several with commas between. */
  state?: string;
  /** Beginnings of words that were submitted, or a submission's id. */
  text?: string;
}
export interface LedgerSearch extends Period {
  /** Beginnings of words that were submitted, or a record's id. */
  text?: string;
  intake?: string;
  system?: string;
  entity?: string;
  record?: string;
  state?: string;
}
/** The page at an address, with its forms. */
export interface ReadPage {
  /** Where the page was found in the end. */
  address: string;
  forms: ReadForm[];
  /** Its encoding, where it isn't UTF-8. */
  charset?: string;
}
/** A link by which somebody sets a password, shown this once. */
export interface PasswordLink {
  link: string;
  expiresAt: string;
}
/** What became of taking one change back. */
export interface TakenBack {
  change: number;
  done: boolean;
  /** In words: what was restored, or why nothing was. */
  words: string;
}
/** What became of merging, linking, or taking that back. */
export interface Merged {
  done: boolean;
  /** Records that were led to the survivor, and records removed. */
  moved: number;
  removed: number;
  words: string;
}
/** What a text finds. */
/** Where a field is: of which entity in which system. */
interface FieldPlace {
  system: string;
  systemName: string;
  entity: string;
  entityLabel: string;
  field: string;
  label: string;
}
/** What is found by a text, each with the reason in words. */
export interface FoundByText {
  submissions: (submissions.SubmissionLine & { why: string })[];
  fields: (FieldPlace & { why: string })[];
  /** Choices of a field's list. */
  options: (FieldPlace & { option: string; why: string })[];
  entities: (Omit<FieldPlace, 'field' | 'label'> & { why: string })[];
  intakes: { id: string; name: string; why: string }[];
  pairings: { id: string; name: string; why: string }[];
  /** Records as their systems hold them now. */
  records: {
    system: string;
    systemName: string;
    entity: string;
    entityLabel: string;
    id: string;
    page?: string;
    why: string;
  }[];
  /** Who has access; told to administrators. */
  people: { id: string; name: string; email: string; why: string }[];
}
/** A system as it was read without being connected. */
export interface Description {
  schema: Schema;
  capabilities: systems.System['capabilities'];
  recordPage?: string;
  latencyMs: number;
}
type OneIntake = { intake: intakes.Intake };

/**
 * The contract of our API, for the server that answers, the pages that ask, and the OpenAPI document that is published:
 * by method and path, what the query may say, which class the body is of, and what is answered. Moments come as ISO 8601
 * texts. Without an `answer` it is 204; `sends` names another kind of answer than JSON, `takes` another kind of body.
 */
export interface Routes {
  'get /health': { answer: { status: 'ok' } };
  /** This document (OpenAPI 3.1). */
  'get /openapi.json': { answer: Record<string, unknown> };
  /** JSON Schemas (2020-12) of the configuration documents. */
  'get /schemas.json': { answer: Record<string, unknown> };

  'get /systems': { answer: { systems: systems.System[] } };
  'post /systems/try': { body: bodies.SystemAddressBody; answer: Description };
  'post /systems/look': { body: bodies.LookAtSystemBody; answer: systems.LookedAt };
  'post /systems': { body: bodies.ConnectSystemBody; answer: { system: systems.System } };
  'get /systems/:id': { answer: systems.SystemDetail };
  'patch /systems/:id': { body: bodies.ChangeSystemBody; answer: { system: systems.System } };
  'post /systems/:id/read': { answer: { system: systems.System; differences: Difference[] } };
  'delete /systems/:id': object;
  /** How people act as themselves there, where that was said; `audience`: for which address a context to try is signed. */
  'get /systems/:id/acting': { answer: { acting: systems.Acting | null; audience: string } };
  'post /systems/:id/acting/find': { body: bodies.FindIssuerBody; answer: Omit<systems.Acting, 'clientId'> };
  'put /systems/:id/acting': { body: bodies.ActingBody; answer: { acting: systems.Acting } };
  'delete /systems/:id/acting': object;
  'post /systems/:id/acting/try': { body: bodies.TryActingBody; answer: systems.TriedPerson };
  'get /systems/:id/adapter': { answer: systems.AdapterDetail };
  'get /systems/:id/adapter/:version': { answer: { document: AdapterDocument } };
  'put /systems/:id/adapter': {
    body: bodies.SaveAdapterBody;
    answer: { version: number; differences: Difference[] };
  };
  'post /systems/:id/adapter/try': { body: bodies.TryAdapterBody; answer: { trials: AdapterTrial[] } };
  'post /systems/:id/adapter/compare': { answer: { differences: AdapterDifference[] } };
  /** Where somebody signs in, so that Zusammen may act there (OAuth 2.0 authorization code, PKCE). */
  'post /systems/:id/sign-in': { answer: { address: string } };
  'post /systems/signed-in': { body: bodies.SignedInBody; answer: { system: string } };

  'get /intakes': { answer: { intakes: intakes.IntakeLine[] } };
  'post /intakes': { body: bodies.NewIntakeBody; answer: OneIntake };
  'get /intakes/:id': { answer: intakes.IntakeDetail };
  'put /intakes/:id/draft': { body: bodies.SaveDraftBody; answer: { revision: number } };
  'get /payment-services': { answer: { services: intakes.PaymentServiceTold[] } };
  'post /payment-services': { body: bodies.PaymentServiceBody; answer: { service: intakes.PaymentServiceTold } };
  'put /payment-services/:id': { body: bodies.PaymentServiceBody; answer: { service: intakes.PaymentServiceTold } };
  'delete /payment-services/:id': object;
  'post /intakes/:id/preview': { answer: { address: string } };
  'post /intakes/:id/links': { body: bodies.LinkBody; answer: { address: string; until: string } };
  'post /intakes/:id/publish': { body: bodies.PublishBody; answer: { version: number } };
  'put /intakes/:id/state': { body: bodies.IntakeStateBody };
  'put /intakes/:id/put-away': { body: bodies.PutAwayBody };
  'delete /intakes/:id': object;
  'put /intakes/:id/live': { body: bodies.GoLiveBody };
  'get /intakes/:id/versions/:number': { answer: intakes.Version & { document: IntakeDocument } };
  'get /intakes/:id/samples': { answer: { samples: intakes.Sample[] } };
  /** `:intake`: the key of a conversion, or its id. */
  'post /conversions/:intake': {
    body: bodies.ConvertBody;
    answer: { converted?: intakes.ConvertedTold[]; bulk?: string };
  };
  'get /conversions/:intake': { answer: { bulks: intakes.BulkTold[] } };
  'post /conversions/:intake/count': {
    body: bodies.CountRecordsBody;
    answer: { count: number; whole: boolean; records: intakes.RecordTold[] };
  };
  'get /conversions/:intake/records': {
    query: Pick<ListPart, 'limit'> & { text?: string };
    answer: { records: intakes.RecordTold[] };
  };
  'put /bulk-conversions/:id/state': { body: bodies.BulkStateBody };
  'get /intakes/:id/past': { query: Pick<ListPart, 'limit'>; answer: { past: intakes.Past[] } };
  'post /intakes/:id/samples': { body: bodies.ValuesBody; answer: { sample: intakes.Sample } };
  'delete /intakes/:id/samples/:sample': object;
  /** As `application/x-ndjson`, where that is asked for, each result is a line as soon as it stands. */
  'post /intakes/:id/rehearse': { body: bodies.RehearseBody; answer: { results: intakes.Rehearsed[] } };
  'post /intakes/:id/compare': {
    body: bodies.CompareBody;
    answer: { version: number; compared: intakes.Compared[] };
  };
  'get /intakes/:id/facts': { answer: Omit<Facts, 'pageFields'> };
  /** A JSON Schema (2020-12). */
  'get /intakes/:id/form-schema': { answer: Record<string, unknown> };
  'get /intakes/:id/imports': { answer: { imports: intakes.ImportLine[] } };
  'post /intakes/:id/imports': { body: bodies.NewImportBody; answer: { import: Omit<intakes.ImportLine, 'fileName'> } };
  'put /imports/:id/state': { body: bodies.ImportStateBody };
  'get /imports/:id/rows': {
    /** Rows after this one, and those in one state only. */
    query: { after?: string; state?: string };
    answer: {
      import: Omit<intakes.ImportLine, 'fileName'>;
      rows: intakes.ImportRow[];
      totals: intakes.ImportTotals;
    };
  };
  /** CSV (RFC 4180): a line per row of the file, with what became of it. */
  'get /imports/:id/report': object;
  'post /intakes/:id/imports/rehearsal': { body: bodies.RehearseFileBody; answer: intakes.FileRehearsal };
  'get /intakes/:id/secrets': { answer: { secrets: intakes.Secret[] } };
  'post /intakes/:id/secrets': { answer: intakes.Secret & { secret: string } };
  'delete /intakes/:id/secrets/:secret': object;
  'put /intakes/:id/signing': { body: bodies.SigningBody };
  'get /reach': { query: { system?: string; entity?: string; field?: string }; answer: { uses: intakes.ReachedUse[] } };

  'post /pages/read': { body: bodies.ReadPageBody; answer: ReadPage };
  'post /files': { takes: 'application/octet-stream'; query: { name: string }; answer: intakes.UploadedFile };
  'get /files/:id': { answer: { file: intakes.UploadedFile['file'] } };
  'delete /files/:id': object;
  'post /forms/read': { body: bodies.ReadFormsBody; answer: { forms: ReadForm[] } };
  'post /mapping/suggest': { body: bodies.SuggestBody; answer: { lines: SuggestedLine[] } };
  'get /mapping/learned': { answer: { learned: Learned[] } };

  'get /submissions': {
    query: SubmissionSearch;
    answer: {
      submissions: submissions.SubmissionLine[];
      counts: { [State in submissions.SubmissionState]?: number };
    };
  };
  'get /submissions/:id': { answer: submissions.SubmissionPath };
  'post /submissions/:id/answers': { body: bodies.AnswerBody; answer: { decided: submissions.Decided[] } };
  /** What was written because of the answer is taken back, and it is asked again. */
  'post /submissions/:id/unanswer': { body: bodies.UnanswerBody; answer: { results: TakenBack[] } };
  /** Records of the entity that a step in review asks about, found by an id, an e-mail address or a name. */
  'get /submissions/:id/records': {
    query: { step?: string; row?: string; text?: string };
    answer: { records: RecordState[] };
  };
  /** What waits for somebody, by intake and cause, the commonest first. */
  'get /review': {
    query: { intake?: string; system?: string; state?: string; text?: string; from?: string; to?: string };
    answer: { causes: submissions.ReviewCause[] };
  };
  'get /submissions/:id/would': {
    query: { step?: string; row?: string; record?: string };
    answer: { step: StepReport | null };
  };
  /** `left`: alike, but held something else and were left alone. */
  'post /submissions/:id/again': { body: bodies.AgainBody; answer: { again: number; left: number } };
  'get /submissions/:id/alike': {
    answer: { count: number; labels: string[]; alike: submissions.AlikeLine[] };
  };
  'post /submissions/:id/set-aside': { body: bodies.SetAsideBody; answer: { aside: number } };
  'post /submissions/:id/take-back': { body: bodies.TakeBackBody; answer: { results: TakenBack[] } };
  'get /ledger': { query: LedgerSearch & ListPart; answer: { changes: submissions.LedgerLine[] } };
  'get /ledger/export': { query: LedgerSearch & { format?: string }; sends: 'text/csv' };
  'post /ledger/:id/take-back': { answer: { result: TakenBack } };
  'get /live': { sends: 'text/event-stream' };
  'get /find': { query: { text?: string }; answer: FoundByText };
  'get /today': { query: { range?: submissions.Range }; answer: submissions.Today };

  'get /recognitions': { answer: { recognitions: recognition.RecognitionLine[] } };
  'get /systems/:id/entities/:entity/recognition': { answer: recognition.RecognitionDetail };
  'put /systems/:id/entities/:entity/recognition': {
    body: recognitionBodies.SaveRecognitionBody;
    answer: { revision: number };
  };
  'post /systems/:id/entities/:entity/recognition/learn': { answer: recognition.Learning };
  'post /systems/:id/entities/:entity/recognition/effect': {
    body: recognitionBodies.EffectBody;
    answer: { effect: recognition.EffectOfChange };
  };
  'post /systems/:id/entities/:entity/recognition/try': {
    body: recognitionBodies.TryRecognitionBody;
    answer: recognition.Tried;
  };
  'get /systems/:id/entities/:entity/recognition/records': {
    /** Ids, with commas between. */
    query: { ids?: string };
    answer: { records: RecordState[] };
  };
  'post /systems/:id/entities/:entity/recognition/decisions': { body: recognitionBodies.DecidePairBody };
  'post /systems/:id/entities/:entity/recognition/measure': object;
  'post /recognise/files': { body: recognitionBodies.MatchFilesBody; sends: 'text/csv' };
  'get /systems/:id/entities/:entity/doubles': {
    /** States of groups, with commas between. */
    query: { state?: string };
    answer: recognition.Doubles;
  };
  'post /systems/:id/entities/:entity/doubles': {
    body: recognitionBodies.NewSearchBody;
    answer: { search: string };
  };
  'post /doubles/searches/:id/state': { body: recognitionBodies.SearchStateBody };
  'get /doubles/groups/:id': {
    query: { rule?: string; survivor?: string; trusted?: string };
    answer: recognition.GroupDetail;
  };
  'post /doubles/groups/:id/merge': { body: recognitionBodies.MergeBody; answer: Merged };
  'post /doubles/groups/:id/link': { answer: Merged };
  'post /doubles/groups/:id/go-on': { answer: Merged };
  'post /doubles/groups/:id/apart': object;
  'post /doubles/groups/:id/take-back': { answer: Merged };

  /** What of a system's schema can be changed from here. */
  'get /schema/:system/abilities': { answer: { abilities: schemas.SchemaAbilities } };
  /** A definition document: its entities are made, all or none. */
  'post /schema/:system/entities': {
    body: schemaBodies.NewEntitiesBody;
    answer: { change: string; entities: string[] };
  };
  /** An entity as a definition document, for another system. */
  'get /schema/:system/entities/:entity/definition': { answer: { document: DefinitionDocument } };
  /** A definition document, or a JSON Schema: read, and compared with what the system has. */
  'post /schema/:system/definitions/read': {
    body: schemaBodies.ReadDefinitionBody;
    answer: schemas.ReadDefinitionTold;
  };
  /** What an uploaded sheet would be as an entity; with `Accept: application/x-ndjson`, line by line. */
  'post /schema/:system/sheets/look': { body: schemaBodies.LookAtSheetBody; answer: { told: schemas.SheetTold[] } };
  'post /schema/:system/sheets/reference': {
    body: schemaBodies.MeasureReferenceBody;
    answer: { seen: ReferenceSeen };
  };
  'post /schema/:system/sheets': { body: schemaBodies.NewSheetBody; answer: { change: string } };
  /** One field, wherever it is needed: where it would be, and what carries it on. */
  'post /schema/one-field/look': { body: schemaBodies.OneFieldBody; answer: schemas.FieldPlanTold };
  'post /schema/one-field/rehearse': {
    body: schemaBodies.OneFieldBody;
    answer: { rehearsed: schemas.FieldRehearsed[] };
  };
  'post /schema/one-field': { body: schemaBodies.OneFieldBody; answer: { change: string } };
  /** What goes by the old names of renamed fields or by what is gone, and having it go by the new ones or by others. */
  'get /schema/:system/drift': {
    answer: {
      renames: OpenRename[];
      steps: string[];
      lost: LostPart[];
      required: RequiredPart[];
      unfit: UnfitPart[];
    };
  };
  'post /schema/:system/drift': { body: schemaBodies.MendDriftBody; answer: { change: string } };
  /** Options of several fields side by side, and what is changed of them. */
  'get /schema/options': {
    /** A JSON list of `[system, entity, field]`. */
    query: { of?: string };
    answer: schemas.OptionsCompared;
  };
  'post /schema/options/look': { body: schemaBodies.ChangeOptionsBody; answer: { steps: string[] } };
  'post /schema/options': { body: schemaBodies.ChangeOptionsBody; answer: { change: string } };
  'get /schema/:system/entities/:entity/fields/:field/counts': { answer: { counts: schemas.FieldCounts } };
  'get /schema-changes': { answer: { changes: schemas.SchemaChangeTold[] } };
  'get /schema-changes/:id': { answer: { change: schemas.SchemaChangeDetail } };
  'post /schema-changes/:id/pause': object;
  'post /schema-changes/:id/go-on': object;
  'post /schema-changes/:id/take-back': object;
  'post /systems/:id/fields': { body: bodies.NewFieldBody; answer: { name: string } };
  'get /pairings': { answer: { pairings: pairings.PairingListed[] } };
  'post /pairings': { body: pairingBodies.NewPairingBody; answer: { id: string } };
  'post /pairings/propose': { body: pairingBodies.ProposePairingBody; answer: pairings.PairingProposal };
  'get /pairings/questions': { answer: { questions: pairings.PairQuestion[] } };
  'get /pairings/:id': { answer: { pairing: pairings.PairingDetail } };
  'put /pairings/:id/draft': { body: pairingBodies.ChangePairingBody; answer: { revision: number } };
  'post /pairings/:id/look': { body: pairingBodies.LookAtPairingBody; answer: pairings.PairingLook };
  'post /pairings/:id/rehearse': {
    body: pairingBodies.RehearsePairingBody;
    answer: pairings.PairingRehearsal;
  };
  'post /pairings/:id/start': { body: pairingBodies.StartPairingBody; answer: { version: number } };
  'post /pairings/:id/pause': object;
  'post /pairings/:id/compare': object;
  'post /pairings/:id/again': { body: pairingBodies.SendAgainBody; answer: { again: number } };
  'post /pairings/:id/pairs/:pair/answer': { body: pairingBodies.AnswerPairBody };
  'delete /pairings/:id': object;

  'post /session': { body: bodies.SignInBody; answer: { user: people.User } };
  'get /session': { answer: { user: people.User } };
  'delete /session': object;
  'put /session/password': { body: bodies.ChangePasswordBody };
  'post /session/set-password': { body: bodies.SetPasswordBody; answer: { email: string } };
  'post /session/first-administrator': { body: bodies.FirstAdministratorBody; answer: { email: string } };
  'get /people': { answer: { people: people.User[] } };
  'post /people': { body: bodies.NewPersonBody; answer: { id: string } & Partial<PasswordLink> };
  'post /people/:id/password-link': { answer: PasswordLink };
  'patch /people/:id': { body: bodies.ChangePersonBody };
  'get /sign-ins': { answer: { signIns: people.SignInLine[] } };
  'get /changes': { query: { subject?: string }; answer: { changes: people.NamedChange[] } };
}

export type RouteName = keyof Routes;
/** The names that stand in a path with a colon before them. */
export type ParamsOf<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? { [Key in Name]: string } & ParamsOf<Rest>
  : Path extends `${string}:${infer Name}`
    ? { [Key in Name]: string }
    : object;
type Of<Name extends RouteName, Part extends string, Otherwise> = Name extends RouteName
  ? Routes[Name] extends { [Key in Part]: infer Found }
    ? Found
    : Otherwise
  : never;
export type QueryOf<Name extends RouteName> = Of<Name, 'query', object>;
export type BodyOf<Name extends RouteName> = Of<Name, 'body', object>;
export type AnswerOf<Name extends RouteName> = Of<Name, 'answer', undefined>;
