/** When personal values leave a place. */
type Leaves =
  /** When the intake they came by no longer keeps them (`keepDays`). */
  | 'with its submission'
  /** When the file is removed, by hand or with what came of it. */
  | 'with its file'
  /** When the record is changed or removed in the system it is of. */
  | 'with the record in its system'
  /** They are about those who work with Zusammen, and stay as long as their account, or for a time. */
  | 'with an account'
  /** There are none. */
  | 'never';

/**
 * The register of where personal values are kept: every table, its columns that may hold some, and when they leave it.
 * A test fails when a table or such a column is missing here (forgetting.test.ts), so that whoever adds one decides.
 */
export const PERSONAL: Readonly<Record<string, { columns: readonly string[]; leaves: Leaves }>> = {
  submissions: {
    columns: [
      'submitted',
      'label',
      'words',
      'reason',
      'answers',
      'amended',
      'course',
      'acting',
      'of_record',
      'idempotency_key',
      'fingerprint',
    ],
    leaves: 'with its submission',
  },
  // Of a system without versions the tags are fingerprints of records' values.
  ledger: {
    columns: ['before_values', 'after_values', 'refusal', 'etag_before', 'etag_after'],
    leaves: 'with its submission',
  },
  // Who caused a change, and where it acted as somebody.
  turns: { columns: ['actor', 'acting_person'], leaves: 'with an account' },
  search_words: { columns: ['word'], leaves: 'with its submission' },
  samples: { columns: ['sample_values'], leaves: 'with its submission' },
  // Hashes of keys, gone as soon as a submission is settled.
  lanes: { columns: ['lane'], leaves: 'with its submission' },
  lane_holders: { columns: ['lane'], leaves: 'with its submission' },
  files: { columns: ['name', 'column_names'], leaves: 'with its file' },
  file_parts: { columns: ['bytes'], leaves: 'with its file' },
  // What visitors sent along; whoever has a file's id has the file.
  visitor_files: { columns: ['id', 'name'], leaves: 'with its submission' },
  visitor_file_parts: { columns: ['file_id', 'bytes'], leaves: 'with its submission' },
  visitor_file_uses: { columns: ['file_id'], leaves: 'with its submission' },
  // Who paid, only the payment service knows.
  payments: { columns: ['session', 'page', 'words'], leaves: 'with its submission' },
  // Tokens of people who act as themselves in a system, and where a panel was last seen by one.
  acting_tokens: { columns: ['person', 'sealed'], leaves: 'with an account' },
  panel_sights: { columns: ['seen_by', 'refused_from'], leaves: 'with an account' },
  acting_systems: { columns: [], leaves: 'never' },
  taken_contexts: { columns: [], leaves: 'never' },
  // Ids of records, gone when they no longer meet what a conversion starts at.
  met_records: { columns: ['record_id'], leaves: 'with the record in its system' },
  bulk_conversions: { columns: ['record_parts', 'problems'], leaves: 'with its submission' },
  conversion_starts: { columns: [], leaves: 'never' },
  payment_services: { columns: [], leaves: 'never' },
  imports: { columns: ['problems'], leaves: 'with its file' },
  jobs: { columns: ['words', 'started_by'], leaves: 'with its file' },
  feeds: { columns: ['words'], leaves: 'with the record in its system' },
  known_records: { columns: ['packed'], leaves: 'with the record in its system' },
  known_keys: { columns: ['hash'], leaves: 'with the record in its system' },
  // Hashes of values by which records are found whose system doesn't search.
  held_values: { columns: ['hash', 'record_id'], leaves: 'with the record in its system' },
  recognitions: { columns: ['counts', 'measure', 'ignored'], leaves: 'with the record in its system' },
  double_groups: { columns: ['merge_plan', 'words'], leaves: 'with the record in its system' },
  // What pairings know of records, and where two differ, until the record or the pairing is gone.
  seen_records: { columns: ['record_id', 'seen_values', 'etag'], leaves: 'with the record in its system' },
  seen_links: { columns: ['target', 'record_id'], leaves: 'with the record in its system' },
  pairs: {
    columns: ['left_id', 'right_id', 'base', 'pending', 'decided', 'candidates'],
    leaves: 'with the record in its system',
  },
  pair_troubles: { columns: ['words', 'base', 'now'], leaves: 'with the record in its system' },
  pair_keys: { columns: ['hash', 'record_id'], leaves: 'with the record in its system' },
  pair_due: { columns: ['record_id'], leaves: 'with the record in its system' },
  pairing_versions: { columns: ['applied_by'], leaves: 'with an account' },
  pairing_beats: { columns: [], leaves: 'never' },
  pairings: { columns: [], leaves: 'never' },
  // Who has kept a version. What was answered when it was tried is not kept.
  adapter_versions: { columns: ['changed_by', 'reasons'], leaves: 'with an account' },
  users: { columns: ['email', 'name'], leaves: 'with an account' },
  sessions: { columns: [], leaves: 'with an account' },
  password_links: { columns: [], leaves: 'with an account' },
  sign_ins: { columns: ['address', 'account'], leaves: 'with an account' },
  changes: { columns: ['user_name'], leaves: 'with an account' },
  decided_pairs: { columns: ['decided_by'], leaves: 'with an account' },
  recognition_versions: { columns: ['saved_by'], leaves: 'with an account' },
  double_searches: { columns: [], leaves: 'with an account' },
  held_fields: { columns: [], leaves: 'never' },
  installation: { columns: [], leaves: 'never' },
  intake_secrets: { columns: [], leaves: 'never' },
  intake_versions: { columns: [], leaves: 'never' },
  intakes: { columns: [], leaves: 'never' },
  learned_lines: { columns: [], leaves: 'never' },
  // Who made a change; rows of a sheet stay in its file, and spellings of options name nobody.
  schema_changes: { columns: ['changed_by', 'title'], leaves: 'with an account' },
  schema_snapshots: { columns: [], leaves: 'never' },
  search_state: { columns: [], leaves: 'never' },
  system_tokens: { columns: [], leaves: 'never' },
  systems: { columns: [], leaves: 'never' },
};
