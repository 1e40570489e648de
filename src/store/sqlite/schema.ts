/** The tables, their versions, and the steps from one to the next. */
import type Database from "better-sqlite3";

/** The store's version: raised with each change of the tables, with a step in {@link migrations}. */
export const STORE_VERSION = 12;

/**
 * A record's id holds its product and its revision, so that one product's records lie side by side on disk and a scan
 * reads each page once: id = product × 2^20 + revision. Both stay exact in a JavaScript number.
 */
export const REVISIONS_PER_PRODUCT = 1 << 20;

/**
 * A family's number keeps catalogue order: a product on its own has id × 1024, a group a number between its first
 * member's and the next product's, so that several groups can begin at one product that moved.
 */
export const FAMILIES_PER_PRODUCT = 1024;

const version1 = `
  CREATE TABLE revision (
    id INTEGER PRIMARY KEY,
    layer TEXT NOT NULL,
    source TEXT NOT NULL,
    file TEXT NOT NULL,
    at TEXT NOT NULL,
    columns TEXT NOT NULL,
    counts TEXT NOT NULL
  );
  CREATE TABLE attribute (slot INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE);
  CREATE TABLE family (name TEXT PRIMARY KEY, id INTEGER NOT NULL);
  CREATE TABLE product (id INTEGER PRIMARY KEY, sku TEXT NOT NULL UNIQUE, family INTEGER NOT NULL);
  CREATE INDEX product_family ON product (family, id);
  CREATE TABLE record (id INTEGER PRIMARY KEY, row INTEGER NOT NULL, texts TEXT NOT NULL);
`;

// A revision can be undone and belongs to one act of a person; products are found by other keys than the SKU.
const version2 = `
  ALTER TABLE revision ADD COLUMN kind TEXT NOT NULL DEFAULT 'import';
  ALTER TABLE revision ADD COLUMN act INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE revision ADD COLUMN undone_by INTEGER;
  ALTER TABLE revision ADD COLUMN undoes TEXT NOT NULL DEFAULT '[]';
  UPDATE revision SET act = id;
  CREATE TABLE key_value (
    attribute TEXT NOT NULL, value NOT NULL, product INTEGER NOT NULL,
    PRIMARY KEY (attribute, value, product)
  ) WITHOUT ROWID;
  CREATE TABLE indexed (attribute TEXT PRIMARY KEY);
  UPDATE product SET family = CASE
    WHEN family IN (SELECT id FROM family) THEN family * ${FAMILIES_PER_PRODUCT} + 1
    ELSE family * ${FAMILIES_PER_PRODUCT} END;
  UPDATE family SET id = id * ${FAMILIES_PER_PRODUCT} + 1;
  CREATE INDEX family_id ON family (id);
`;

// What web addresses answered, and the prices that channels were given, where a change of them is watched.
const version3 = `
  CREATE TABLE link_answer (url TEXT PRIMARY KEY, at TEXT NOT NULL, answer TEXT NOT NULL) WITHOUT ROWID;
  CREATE TABLE channel_price (
    channel TEXT NOT NULL, state TEXT NOT NULL, sku TEXT NOT NULL, price TEXT NOT NULL,
    PRIMARY KEY (channel, state, sku)
  ) WITHOUT ROWID;
`;

// What channels were given, whole listings and not prices alone.
const version4 = `
  CREATE TABLE ledger (
    channel TEXT NOT NULL, state TEXT NOT NULL, sku TEXT NOT NULL, entry TEXT NOT NULL,
    purpose TEXT NOT NULL, at TEXT NOT NULL,
    PRIMARY KEY (channel, state, sku)
  ) WITHOUT ROWID;
  INSERT INTO ledger (channel, state, sku, entry, purpose, at)
    SELECT channel, state, sku, json_object('price', price, 'category', '', 'axes', '', 'values', json_object()), 'full', ''
    FROM channel_price;
  DROP TABLE channel_price;
  CREATE TABLE built_file (
    channel TEXT NOT NULL, number INTEGER NOT NULL, name TEXT NOT NULL, PRIMARY KEY (channel, number, name)
  ) WITHOUT ROWID;
`;

// Who names a product, and who said again what was said before: an undo takes back one delivery and no other's word.
const version5 = `
  ALTER TABLE revision ADD COLUMN names INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE revision ADD COLUMN drops INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE revision ADD COLUMN same BLOB;
  UPDATE revision SET drops = 1;
`;

// A group's own record is marked by a column, no longer by a sign before its name; the ledger has columns of its own.
const version6 = `
  CREATE TABLE product_6 (
    id INTEGER PRIMARY KEY, sku TEXT NOT NULL, is_group INTEGER NOT NULL DEFAULT 0, family INTEGER NOT NULL,
    UNIQUE (sku, is_group)
  );
  INSERT INTO product_6 (id, sku, is_group, family)
    SELECT id, CASE WHEN substr(sku, 1, 1) = char(29) THEN substr(sku, 2) ELSE sku END, substr(sku, 1, 1) = char(29), family
    FROM product;
  DROP TABLE product;
  ALTER TABLE product_6 RENAME TO product;
  CREATE INDEX product_family ON product (family, id);
  CREATE TABLE ledger_6 (
    channel TEXT NOT NULL, state TEXT NOT NULL, sku TEXT NOT NULL,
    is_group INTEGER NOT NULL, withdrawn INTEGER NOT NULL,
    name TEXT, gtin TEXT, price TEXT, category TEXT NOT NULL, axes TEXT NOT NULL, grp TEXT, texts TEXT NOT NULL,
    purpose TEXT NOT NULL, at TEXT NOT NULL,
    PRIMARY KEY (channel, state, sku)
  ) WITHOUT ROWID;
  INSERT INTO ledger_6
    SELECT channel, state, sku, coalesce(entry ->> '$.isGroup', 0), coalesce(entry ->> '$.withdrawn', 0),
      entry ->> '$.name', entry ->> '$.gtin', entry ->> '$.price', coalesce(entry ->> '$.category', ''),
      coalesce(entry ->> '$.axes', ''), entry ->> '$.group',
      coalesce((SELECT group_concat(key || char(28) || value || char(29), '') FROM json_each(entry, '$.values')), ''),
      purpose, at
    FROM ledger;
  DROP TABLE ledger;
  ALTER TABLE ledger_6 RENAME TO ledger;
  CREATE INDEX ledger_group ON ledger (channel, state, grp) WHERE is_group = 1;
`;

// By what rules a source read, where its file lies, and what was decided with it outside of the catalogue.
const version7 = `
  ALTER TABLE revision ADD COLUMN rules TEXT NOT NULL DEFAULT '';
  ALTER TABLE revision ADD COLUMN came_from TEXT NOT NULL DEFAULT '';
  ALTER TABLE revision ADD COLUMN decided TEXT NOT NULL DEFAULT '[]';
`;

// Builds of other kinds stand beside the whole file; what was sent is an act of the history.
const version8 = `
  ALTER TABLE built_file ADD COLUMN kind TEXT NOT NULL DEFAULT 'full';
  UPDATE built_file SET kind = coalesce(
    (SELECT purpose FROM ledger WHERE ledger.channel = built_file.channel AND state = 'built' LIMIT 1), 'full'
  );
  UPDATE ledger SET state = 'built ' || purpose WHERE state = 'built' AND purpose <> 'full';
`;

// The mark of the last act that changed files too: whoever finds such files half in place knows whether it holds.
const version9 = `
  CREATE TABLE landed (mark TEXT PRIMARY KEY) WITHOUT ROWID;
`;

// A listing is one text. What a build holds stands in the order in which it is read, so that a build writes one behind the
// other, and of the next only what differs.
const version10 = `
  CREATE TABLE book (
    id INTEGER PRIMARY KEY, channel TEXT NOT NULL, state TEXT NOT NULL, purpose TEXT NOT NULL, at TEXT NOT NULL
  );
  CREATE UNIQUE INDEX book_state ON book (channel, state);
  CREATE TABLE built (
    book INTEGER NOT NULL, family INTEGER NOT NULL, member INTEGER NOT NULL,
    sku TEXT NOT NULL, is_group INTEGER NOT NULL, withdrawn INTEGER NOT NULL, grp TEXT, content TEXT NOT NULL,
    PRIMARY KEY (book, family, member)
  ) WITHOUT ROWID;
  CREATE TABLE ledger_10 (
    channel TEXT NOT NULL, state TEXT NOT NULL, sku TEXT NOT NULL,
    is_group INTEGER NOT NULL, withdrawn INTEGER NOT NULL, grp TEXT, content TEXT NOT NULL,
    purpose TEXT NOT NULL, at TEXT NOT NULL,
    PRIMARY KEY (channel, state, sku)
  ) WITHOUT ROWID;
  INSERT INTO ledger_10
    SELECT channel, state, sku, is_group, withdrawn, grp,
      coalesce(name, '') || char(29) || coalesce(gtin, '') || char(29) || coalesce(price, '') || char(29)
        || category || char(29) || axes || char(29) || texts,
      purpose, at
    FROM ledger WHERE state <> 'coming';
  DROP TABLE ledger;
  ALTER TABLE ledger_10 RENAME TO ledger;
  CREATE INDEX ledger_group ON ledger (channel, state, grp) WHERE is_group = 1;
  INSERT INTO book (channel, state, purpose, at)
    SELECT channel, state, max(purpose), max(at) FROM ledger WHERE state LIKE 'built%' GROUP BY channel, state;
  INSERT INTO built
    SELECT book.id, -1, row_number() OVER (PARTITION BY book.id ORDER BY sku), sku, is_group, withdrawn, grp, content
    FROM ledger JOIN book USING (channel, state);
  DELETE FROM ledger WHERE state LIKE 'built%';
  CREATE INDEX built_sku ON built (book, sku);
  CREATE VIEW built_listing AS
    SELECT channel, state, sku, is_group, withdrawn, grp, content, purpose, at FROM book JOIN built ON built.book = book.id;
`;

// Which products a revision changed, so that what is known of the others needs no second look; unknown for those of before.
const version11 = `
  ALTER TABLE revision ADD COLUMN touched BLOB;
  ALTER TABLE revision ADD COLUMN parted TEXT NOT NULL DEFAULT '[]';
`;

// What was sent where, what came back of each row, where each listing stands by that, and what the channel had before.
const version12 = `
  CREATE TABLE job (
    number INTEGER PRIMARY KEY, channel TEXT NOT NULL, kind TEXT NOT NULL, purpose TEXT NOT NULL, build INTEGER NOT NULL,
    whole INTEGER NOT NULL, at TEXT NOT NULL, listings INTEGER NOT NULL, accepted INTEGER NOT NULL, refused INTEGER NOT NULL
  );
  CREATE INDEX job_channel ON job (channel, number);
  CREATE TABLE job_file (
    job INTEGER NOT NULL, position INTEGER NOT NULL, name TEXT NOT NULL, bytes INTEGER NOT NULL, sha256 TEXT NOT NULL,
    state TEXT NOT NULL, key TEXT NOT NULL, reference TEXT NOT NULL, at TEXT NOT NULL, percent REAL, because TEXT NOT NULL,
    PRIMARY KEY (job, position)
  ) WITHOUT ROWID;
  CREATE TABLE outcome (
    job INTEGER NOT NULL, sku TEXT NOT NULL, accepted INTEGER NOT NULL, given_id TEXT NOT NULL, code TEXT NOT NULL,
    message TEXT NOT NULL, field TEXT NOT NULL, PRIMARY KEY (job, sku)
  ) WITHOUT ROWID;
  CREATE TABLE standing (
    channel TEXT NOT NULL, sku TEXT NOT NULL, state TEXT NOT NULL, job INTEGER NOT NULL, at TEXT NOT NULL,
    given_id TEXT NOT NULL, code TEXT NOT NULL, message TEXT NOT NULL, field TEXT NOT NULL, content TEXT,
    PRIMARY KEY (channel, sku)
  ) WITHOUT ROWID;
  CREATE INDEX standing_state ON standing (channel, state, sku);
  CREATE TABLE prior (
    job INTEGER NOT NULL, sku TEXT NOT NULL, is_group INTEGER NOT NULL, withdrawn INTEGER NOT NULL, grp TEXT,
    content TEXT NOT NULL, purpose TEXT NOT NULL, at TEXT NOT NULL, PRIMARY KEY (job, sku)
  ) WITHOUT ROWID;
`;

/** Steps from each version to the next; a store is brought forward in one transaction when it is opened. */
export const migrations: readonly string[] = [
  version1,
  version2,
  version3,
  version4,
  version5,
  version6,
  version7,
  version8,
  version9,
  version10,
  version11,
  version12,
];

/** The version of a store's tables. */
export const storedVersion = (database: Database.Database): number =>
  database.pragma("user_version", { simple: true }) as number;

/** Brings a store forward, in one transaction. */
export function migrate(database: Database.Database): void {
  const run = database.transaction(() => {
    const from = storedVersion(database);
    for (const step of migrations.slice(from)) database.exec(step);
    // A new store keeps barcodes findable from its first record on; an older one gathers them when they are first asked for.
    if (from === 0) database.exec("INSERT INTO indexed (attribute) VALUES ('gtin')");
    database.pragma(`user_version = ${STORE_VERSION}`);
  });
  if (storedVersion(database) < STORE_VERSION) run.immediate();
}
