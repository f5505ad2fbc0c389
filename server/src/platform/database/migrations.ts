import { DataTypes, type QueryInterface, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

type Migration = (query: QueryInterface) => Promise<void>;

const id = { type: DataTypes.UUID, primaryKey: true, allowNull: false };
const moment = { type: DataTypes.DATE, allowNull: false };
const words = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
const belongsTo = (table: string) => ({
  type: DataTypes.UUID,
  allowNull: false,
  references: { model: table, key: 'id' },
  onDelete: 'CASCADE',
});

/** In the order of their names; one that has run is never changed. */
const MIGRATIONS: Readonly<Record<string, Migration>> = {
  '0001-jobs-and-signs': async (query) => {
    await query.createTable('customers', {
      id,
      code: { ...words(8), unique: true },
      name: { ...words(120), unique: true },
      contact: { ...words(200), defaultValue: '' },
      created_at: moment,
    });
    await query.createTable('jobs', {
      id,
      customer_id: belongsTo('customers'),
      number: { ...words(20), unique: true },
      title: words(200),
      state: words(20),
      due_on: { type: DataTypes.DATEONLY, allowNull: true },
      quantity: { type: DataTypes.INTEGER, allowNull: false },
      unit: words(2),
      created_at: moment,
    });
    await query.createTable('signs', {
      id,
      job_id: belongsTo('jobs'),
      title: words(200),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      document: { type: DataTypes.JSONB, allowNull: false },
      saved_at: moment,
      created_at: moment,
    });
    await query.createTable('sign_revisions', {
      id,
      sign_id: belongsTo('signs'),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      kind: words(10),
      document: { type: DataTypes.JSONB, allowNull: false },
      saved_at: moment,
    });
    await query.addIndex('sign_revisions', ['sign_id', 'kind', 'revision']);
    await query.addIndex('signs', ['job_id']);
    await query.addIndex('jobs', ['customer_id']);
  },
  '0002-tasks': async (query) => {
    await query.createTable('tasks', {
      id,
      sign_id: belongsTo('signs'),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      kind: words(20),
      state: words(12),
      progress: { type: DataTypes.FLOAT, allowNull: false },
      step: { ...words(120), defaultValue: '' },
      error: { type: DataTypes.TEXT, allowNull: true },
      cancel_asked: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      asked_at: moment,
      beat_at: { type: DataTypes.DATE, allowNull: true },
      finished_at: { type: DataTypes.DATE, allowNull: true },
      file_name: { type: DataTypes.STRING(200), allowNull: true },
      file_type: { type: DataTypes.STRING(100), allowNull: true },
      file: { type: DataTypes.BLOB, allowNull: true },
    });
    await query.addIndex('tasks', ['sign_id', 'asked_at']);
  },
  '0003-job-files': async (query) => {
    await query.createTable('job_files', {
      id,
      job_id: belongsTo('jobs'),
      name: words(200),
      size: { type: DataTypes.INTEGER, allowNull: false },
      content: { type: DataTypes.BLOB, allowNull: false },
      created_at: moment,
    });
    await query.addIndex('job_files', ['job_id']);
  },
  '0004-shop': async (query) => {
    await query.createTable('shop_fonts', {
      id: { type: DataTypes.STRING(64), primaryKey: true, allowNull: false },
      entry: { type: DataTypes.JSONB, allowNull: false },
      is_restricted: { type: DataTypes.BOOLEAN, allowNull: false },
      file_name: words(200),
      digest: { ...words(64), unique: true },
      content: { type: DataTypes.BLOB, allowNull: false },
      created_at: moment,
    });
    await query.createTable('shop_blanks', {
      id,
      name: words(80),
      blank: { type: DataTypes.JSONB, allowNull: false },
      created_at: moment,
    });
  },
  '0005-options-and-finishes': async (query) => {
    await query.addColumn('tasks', 'option', { type: DataTypes.STRING(64), allowNull: true });
    await query.createTable('shop_finishes', {
      id,
      finish: { type: DataTypes.JSONB, allowNull: false },
      created_at: moment,
    });
  },
  '0006-proofs': async (query) => {
    const maybe = { type: DataTypes.DATE, allowNull: true };
    await query.createTable('proofs', {
      id,
      job_id: belongsTo('jobs'),
      letter: words(4),
      state: words(20),
      contents: { type: DataTypes.JSONB, allowNull: false },
      digest: words(64),
      message: { type: DataTypes.TEXT, allowNull: false },
      recipient: words(200),
      token: { ...words(64), unique: true },
      created_at: moment,
      expires_at: moment,
      seen_at: maybe,
      ended_at: maybe,
      answered_by: { type: DataTypes.STRING(120), allowNull: true },
      ticks: { type: DataTypes.JSONB, allowNull: true },
      choices: { type: DataTypes.JSONB, allowNull: true },
      wishes: { type: DataTypes.TEXT, allowNull: true },
      remind_at: maybe,
    });
    await query.addIndex('proofs', ['job_id', 'letter'], { unique: true });
    await query.createTable('proof_remarks', {
      id,
      proof_id: belongsTo('proofs'),
      sign_id: { type: DataTypes.UUID, allowNull: false },
      option: { type: DataTypes.STRING(64), allowNull: true },
      across: { type: DataTypes.FLOAT, allowNull: true },
      down: { type: DataTypes.FLOAT, allowNull: true },
      is_from_shop: { type: DataTypes.BOOLEAN, allowNull: false },
      who: words(120),
      text: { type: DataTypes.TEXT, allowNull: false },
      at: moment,
    });
    await query.addIndex('proof_remarks', ['proof_id', 'at']);
    await query.createTable('job_events', {
      id,
      job_id: belongsTo('jobs'),
      at: moment,
      who: words(120),
      text: { type: DataTypes.TEXT, allowNull: false },
    });
    await query.addIndex('job_events', ['job_id', 'at']);
    await query.createTable('mails', {
      id,
      job_id: belongsTo('jobs'),
      to: words(200),
      subject: words(300),
      text: { type: DataTypes.TEXT, allowNull: false },
      state: words(10),
      error: { type: DataTypes.TEXT, allowNull: true },
      written_at: moment,
      sent_at: maybe,
    });
    await query.changeColumn('tasks', 'sign_id', { type: DataTypes.UUID, allowNull: true });
    await query.addColumn('tasks', 'proof_id', { ...belongsTo('proofs'), allowNull: true });
    await query.addIndex('tasks', ['proof_id']);
    // What was frozen stays as it is, whoever asks for another.
    await query.sequelize.query(`
      CREATE FUNCTION keep_proof_frozen() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF (NEW.job_id, NEW.letter, NEW.contents, NEW.digest, NEW.message, NEW.recipient, NEW.created_at)
           IS DISTINCT FROM (OLD.job_id, OLD.letter, OLD.contents, OLD.digest, OLD.message, OLD.recipient, OLD.created_at) THEN
          RAISE EXCEPTION 'A proof is frozen: its contents never change.';
        END IF;
        IF OLD.state <> 'open' AND (NEW.state, NEW.answered_by, NEW.ticks, NEW.choices, NEW.wishes, NEW.ended_at)
           IS DISTINCT FROM (OLD.state, OLD.answered_by, OLD.ticks, OLD.choices, OLD.wishes, OLD.ended_at) THEN
          RAISE EXCEPTION 'A proof has one end: this one is %.', OLD.state;
        END IF;
        RETURN NEW;
      END $$`);
    await query.sequelize.query(
      'CREATE TRIGGER proofs_stay_frozen BEFORE UPDATE ON proofs FOR EACH ROW EXECUTE FUNCTION keep_proof_frozen()',
    );
  },
  '0007-people': async (query) => {
    await query.createTable('people', {
      id,
      name: words(120),
      email: { ...words(200), unique: true },
      role: words(10),
      password_hash: words(200),
      failures: { type: DataTypes.INTEGER, allowNull: false },
      rests_until: { type: DataTypes.DATE, allowNull: true },
      has_left: { type: DataTypes.BOOLEAN, allowNull: false },
      is_demo: { type: DataTypes.BOOLEAN, allowNull: false },
      created_at: moment,
    });
    await query.createTable('sessions', {
      digest: { type: DataTypes.STRING(64), primaryKey: true, allowNull: false },
      person_id: belongsTo('people'),
      created_at: moment,
      seen_at: moment,
    });
    await query.addIndex('sessions', ['person_id']);
    await query.createTable('deeds', {
      id,
      at: moment,
      person_id: { type: DataTypes.UUID, allowNull: true },
      who: words(200),
      deed: words(200),
      subject: words(300),
    });
    await query.addIndex('deeds', ['at']);
  },
  '0008-layouts': async (query) => {
    await query.createTable('shop_card', {
      id: { type: DataTypes.INTEGER, primaryKey: true, allowNull: false },
      card: { type: DataTypes.JSONB, allowNull: false },
    });
    await query.createTable('shop_layouts', {
      id,
      name: words(80),
      layout: { type: DataTypes.JSONB, allowNull: false },
      created_at: moment,
    });
    await query.addColumn('tasks', 'paper', { type: DataTypes.STRING(10), allowNull: true });
    await query.addColumn('proofs', 'about', { type: DataTypes.JSONB, allowNull: true });
    // What a sheet says besides its signs is frozen with them.
    await query.sequelize.query(`
      CREATE FUNCTION keep_proof_about() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF NEW.about IS DISTINCT FROM OLD.about THEN
          RAISE EXCEPTION 'A proof is frozen: what it says never changes.';
        END IF;
        RETURN NEW;
      END $$`);
    await query.sequelize.query(
      'CREATE TRIGGER proofs_keep_about BEFORE UPDATE ON proofs FOR EACH ROW EXECUTE FUNCTION keep_proof_about()',
    );
  },
  '0009-sheets-by-layout': async (query) => {
    await query.addColumn('tasks', 'layout', { type: DataTypes.JSONB, allowNull: true });
  },
  '0010-what-a-proof-covers': async (query) => {
    await query.addColumn('proofs', 'covers', { type: DataTypes.JSONB, allowNull: true });
    await query.sequelize.query(`
      UPDATE proofs SET covers = (
        SELECT jsonb_agg(jsonb_build_object('signId', sign->'signId', 'revision', sign->'revision'))
        FROM jsonb_array_elements(contents) AS sign
      )`);
  },
  '0011-pictures': async (query) => {
    await query.createTable('pictures', {
      subject: { ...words(200), primaryKey: true },
      version: words(40),
      sign_id: { ...belongsTo('signs'), allowNull: true },
      content: { type: DataTypes.BLOB, allowNull: false },
    });
    await query.addIndex('pictures', ['sign_id']);
  },
  '0012-kinds': async (query) => {
    await query.createTable('shop_kinds', {
      id,
      name: words(80),
      document: { type: DataTypes.JSONB, allowNull: false },
      created_at: moment,
    });
  },
  '0013-bin-and-words': async (query) => {
    for (const table of ['jobs', 'signs']) await query.addColumn(table, 'removed_at', { type: DataTypes.DATE, allowNull: true });
    // What the board searches; the database keeps it true.
    await query.sequelize.query(
      "ALTER TABLE signs ADD COLUMN words text GENERATED ALWAYS AS (jsonb_path_query_array(document, '$.parts[*].words')::text) STORED",
    );
  },
  '0014-making': async (query) => {
    await query.createTable('shop_library', {
      id: { type: DataTypes.INTEGER, primaryKey: true, allowNull: false },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      library: { type: DataTypes.JSONB, allowNull: false },
    });
    await query.createTable('cut_plans', {
      id,
      sign_id: belongsTo('signs'),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      task_id: belongsTo('tasks'),
      order: { type: DataTypes.JSONB, allowNull: false },
      made_with: { type: DataTypes.JSONB, allowNull: false },
      asked_by: words(200),
      asked_at: moment,
      outcome: { type: DataTypes.JSONB, allowNull: true },
      programs: { type: DataTypes.JSONB, allowNull: true },
      picture: { type: DataTypes.BLOB, allowNull: true },
      sheet: { type: DataTypes.BLOB, allowNull: true },
      released: { type: DataTypes.JSONB, allowNull: true },
    });
    await query.addIndex('cut_plans', ['sign_id', 'asked_at']);
  },
  '0015-machine-runs': async (query) => {
    await query.createTable('machine_runs', {
      id,
      plan_id: belongsTo('cut_plans'),
      file: { type: DataTypes.INTEGER, allowNull: false },
      sent_by: words(200),
      sent_at: moment,
      line: { type: DataTypes.INTEGER, allowNull: false },
      end: { type: DataTypes.STRING(10), allowNull: true },
    });
    await query.addIndex('machine_runs', ['sent_at']);
  },
  '0016-processes': async (query) => {
    await query.addColumn('tasks', 'process', { type: DataTypes.JSONB, allowNull: true });
  },
  '0017-tries': async (query) => {
    await query.addColumn('tasks', 'tries', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 });
  },
  '0018-places': async (query) => {
    await query.createTable('places', {
      id,
      job_id: belongsTo('jobs'),
      title: words(120),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      document: { type: DataTypes.JSONB, allowNull: false },
      saved_at: moment,
      created_at: moment,
    });
    await query.addIndex('places', ['job_id']);
    await query.createTable('proof_places', {
      id,
      proof_id: belongsTo('proofs'),
      position: { type: DataTypes.INTEGER, allowNull: false },
      title: words(120),
      document: { type: DataTypes.JSONB, allowNull: false },
      signs: { type: DataTypes.JSONB, allowNull: false },
      photograph: { type: DataTypes.BLOB, allowNull: true },
    });
    await query.addIndex('proof_places', ['proof_id']);
  },
  '0019-runs': async (query) => {
    await query.createTable('runs', {
      id,
      job_id: belongsTo('jobs'),
      title: words(120),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      document: { type: DataTypes.JSONB, allowNull: false },
      sign: words(64),
      row_count: { type: DataTypes.INTEGER, allowNull: false },
      saved_at: moment,
      created_at: moment,
    });
    await query.addIndex('runs', ['job_id']);
  },
  '0020-runs-in-proofs': async (query) => {
    await query.createTable('proof_runs', {
      id,
      proof_id: belongsTo('proofs'),
      position: { type: DataTypes.INTEGER, allowNull: false },
      // The run may be removed; what was frozen of it stays.
      run_id: { type: DataTypes.UUID, allowNull: false },
      sign_id: { type: DataTypes.UUID, allowNull: false },
      title: words(120),
      row_count: { type: DataTypes.INTEGER, allowNull: false },
      slots: { type: DataTypes.JSONB, allowNull: false },
      document: { type: DataTypes.JSONB, allowNull: false },
      sample: { type: DataTypes.JSONB, allowNull: true },
    });
    await query.addIndex('proof_runs', ['proof_id']);
    await query.addIndex('proof_runs', ['run_id']);
    await query.createTable('proof_corrections', {
      id,
      proof_id: belongsTo('proofs'),
      run: belongsTo('proof_runs'),
      row: { type: DataTypes.INTEGER, allowNull: false },
      number: { type: DataTypes.INTEGER, allowNull: false },
      column: words(90),
      was: { type: DataTypes.TEXT, allowNull: false },
      value: { type: DataTypes.TEXT, allowNull: false },
      who: words(120),
      at: moment,
      end: { type: DataTypes.STRING(10), allowNull: true },
    });
    await query.addIndex('proof_corrections', ['proof_id']);
    // Of two at once about the same value the last one counts.
    await query.addIndex('proof_corrections', ['run', 'row', 'column'], { unique: true });
    await query.addColumn('proof_remarks', 'run', { ...belongsTo('proof_runs'), allowNull: true });
    await query.addColumn('proof_remarks', 'row', { type: DataTypes.INTEGER, allowNull: true });
    await query.addColumn('proof_remarks', 'number', { type: DataTypes.INTEGER, allowNull: true });
    await query.sequelize.query(`
      CREATE FUNCTION keep_proof_run() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        RAISE EXCEPTION 'A proof is frozen: its runs never change.';
      END $$`);
    await query.sequelize.query(
      'CREATE TRIGGER proof_runs_stay_frozen BEFORE UPDATE ON proof_runs FOR EACH ROW EXECUTE FUNCTION keep_proof_run()',
    );
  },
  '0021-files-of-runs': async (query) => {
    const count = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 };
    const json = { type: DataTypes.JSONB, allowNull: true };
    const bytes = { type: DataTypes.BLOB, allowNull: true };
    await query.createTable('run_makings', {
      id,
      run_id: belongsTo('runs'),
      title: words(120),
      sign: { ...json, allowNull: false },
      columns: { ...json, allowNull: false },
      kinds: { ...json, allowNull: false },
      sheet: json,
      has_contact: { type: DataTypes.BOOLEAN, allowNull: false },
      who: words(120),
      state: words(12),
      rows: count,
      made: count,
      row_lots: count,
      lots: count,
      lots_made: count,
      laid: json,
      error: { type: DataTypes.TEXT, allowNull: true },
      asked_at: moment,
      finished_at: { type: DataTypes.DATE, allowNull: true },
      beat_at: moment,
    });
    await query.addIndex('run_makings', ['run_id']);
    await query.createTable('run_lots', {
      making_id: { ...belongsTo('run_makings'), primaryKey: true },
      position: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true },
      kind: words(8),
      number: count,
      state: words(8),
      rows: json,
      made: json,
      claim: { type: DataTypes.UUID, allowNull: true },
      tries: count,
      beat_at: { type: DataTypes.DATE, allowNull: true },
      files: json,
      data: bytes,
      edges: bytes,
      drawings: bytes,
      pictures: bytes,
    });
    // What is packed already is not packed once more.
    await query.sequelize.query(
      'ALTER TABLE run_lots ALTER data SET STORAGE EXTERNAL, ALTER drawings SET STORAGE EXTERNAL, ALTER pictures SET STORAGE EXTERNAL',
    );
  },

  '0022-programs-and-options-of-runs': async (query) => {
    await query.addColumn('proof_runs', 'option', { ...words(64), allowNull: true });
    await query.addColumn('run_makings', 'cutting', { type: DataTypes.JSONB, allowNull: true });
    await query.addColumn('run_makings', 'minutes', { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 });
    await query.addColumn('run_makings', 'troubles', { type: DataTypes.JSONB, allowNull: false, defaultValue: [] });
  },

  '0023-parts-of-lots': async (query) => {
    await query.addColumn('run_lots', 'part', { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 });
  },
};

/** Brings the database to the newest shape; gives the names of what ran. */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  const umzug = new Umzug<QueryInterface>({
    migrations: Object.entries(MIGRATIONS).map(([name, up]) => ({ name, up: ({ context }) => up(context) })),
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  return (await umzug.up()).map(({ name }) => name);
}
