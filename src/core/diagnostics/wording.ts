import type { Diagnostic } from "./diagnostic.js";
import type { Code } from "./facts.js";
import { troubleText } from "./trouble-text.js";
import { damages, listed, orNearest, problems, quote, withArticle, type Sentence } from "./phrases.js";
import { placeText } from "./place.js";

const isBelow = (price: string, middle: string): boolean => parseFloat(price) < parseFloat(middle);

/** One sentence for each code: the fact, the value, limit and actual, then the remedy. */
const sentences: { readonly [C in Code]: Sentence<C> } = {
  "no-category": () => "the product has no category in the catalogue; give it one, then place that category",
  unplaced: ({ ourCategory, nearest, placements }) =>
    `${quote(ourCategory)} has no place on the channel${orNearest(nearest)} (see "lexicant place", or add a row to ${placements})`,
  "retired-category": ({ code, since, successor, successorCode }) =>
    successor === ""
      ? `the category ${quote(code)} was retired with version ${since} and nothing takes its place; place it anew`
      : `the category ${quote(code)} was retired with version ${since}; ${quote(successor)} (${successorCode}) takes its place: "lexicant place CHANNEL --successors" follows it`,
  "missing-required": ({ label, example, fills, reads, hasFill }) => {
    const like = example === "" ? "" : ` (such as ${quote(example)})`;
    const remedy =
      reads.length > 0
        ? `give the product its ${reads.join(" or ")}, or change the fill in ${fills}`
        : hasFill
          ? `its fill in ${fills} gives nothing here: change it, or answer in a gap sheet`
          : `add a fill for it to ${fills}, or answer in a gap sheet`;
    return `${label}${like} is missing and required; ${remedy}`;
  },
  "missing-recommended": ({ label, example }) =>
    `${label}${example === "" ? "" : ` (such as ${quote(example)})`} is missing; the channel recommends it`,
  "not-allowed": ({ label, value }) =>
    `${label} is not allowed here and holds ${quote(value)}; leave its fill blank for this category`,
  "too-long": ({ label, value, limit, actual, unit }) =>
    `${label} has ${actual} ${unit}, at most ${limit} are allowed: ${quote(value)}; shorten it, or use fit(…, ${limit}) in its fill`,
  "too-short": ({ label, value, limit, actual, unit }) =>
    `${label} has ${actual} ${unit}, at least ${limit} are wanted: ${quote(value)}`,
  "too-many-values": ({ label, limit, actual }) =>
    `${label} has ${actual} values, at most ${limit} are allowed; use take(…, ${limit}) in its fill`,
  "out-of-range": ({ label, value, min, max }) => {
    const bounds = min === "" ? `at most ${max}` : max === "" ? `at least ${min}` : `from ${min} to ${max}`;
    return `${label} is ${value}, it must be ${bounds}`;
  },
  "unknown-value": ({ label, value, nearest, lexicon }) =>
    `${quote(value)} is not a value of ${label}${orNearest(nearest)} (add a row for it to ${lexicon})`,
  "wrong-pattern": ({ label, value, example }) =>
    `${label} is ${quote(value)}, which is not of the form the channel wants${example === "" ? "" : `, such as ${quote(example)}`}`,
  "wrong-kind": ({ label, value, problem }) => `${label} cannot be ${quote(value)}: ${problems[problem]}`,
  "not-calculated": ({ label, trouble }) => `${label} could not be worked out: ${troubleText(trouble)}`,
  "no-rate": ({ label, trouble }) => `${label} could not be converted: ${troubleText(trouble)}`,
  "no-table-row": ({ label, trouble }) => `${label} was not found: ${troubleText(trouble)}`,
  "fill-circle": ({ label, trouble }) =>
    `${label} has no end: ${troubleText(trouble)}; let one of them not read the other`,
  "unused-language": ({ attribute }) =>
    `no product has ${attribute} yet: this fill takes it as blank until an import brings it`,
  "members-differ": ({ label, trouble }) => `${label} is left blank: ${troubleText(trouble)}`,
  "wrong-currency": ({ label, value, permitted }) =>
    `${label} is ${value}; the channel takes ${permitted.join(", ")}`,
  "torn-list": ({ label, value, mark }) =>
    `${label} has the value ${quote(value)}, which holds ${quote(mark)}, the mark between values in the channel's file; write it without, or take it out in the fill`,
  "rule-broken": ({ says }) => says,
  "titles-alike": ({ title, other, axes }) =>
    `the title ${quote(title)} is also that of ${other} in the same family; ${axes.length === 0 ? "let the title's fill tell them apart" : `use ${axes.join(" and ")} in the title's fill, and see that each member has it`}`,
  "members-apart": ({ label, values, members }) =>
    `${label} belongs to the whole group of ${members}, and its members differ: ${values.join(", ")}; the channel shows one for all of them`,
  "brand-as-title": ({ label, value, fills }) =>
    `${label} is ${quote(value)}, the brand alone; give the product its name, or change the fill in ${fills}`,
  "torn-group": ({ category, other, otherCategory }) =>
    `it goes to ${quote(category)}, and ${other} of the same group to ${quote(otherCategory)}; place the group's products alike`,
  "price-apart": ({ price, middle, times, members }) =>
    `the price ${price} is ${times} times ${isBelow(price, middle) ? "less" : "more"} than ${middle}, the middle of its group of ${members}; see whether the point stands right`,
  "same-description": ({ label, members }) =>
    `${label} is the same for all ${members} members, which are shown one by one; say in each what sets it apart`,
  "repeated-search-words": ({ label, words }) =>
    `${label} repeats what the title says already: ${listed(words)}; use the room for other words`,
  "shared-barcode": ({ label, value, others }) =>
    `${label} ${value} is also that of ${listed(others)}, which goes to this channel as well; one of them is wrong: compare both with the packaging`,
  "repeated-id": ({ label, value, other }) =>
    `${label} ${quote(value)} is also that of ${quote(other)}; the channel would take both for one: change the fill, or one of the SKUs`,
  "blank-axis": ({ axis, members }) =>
    `its group of ${members} varies by ${axis}, and it has no ${axis}; give it one, or take ${axis} out of the group's varies_by`,
  "would-erase": ({ label, value }) =>
    `${label} is blank now, and the channel has ${quote(value)}: a full file would take it away; fill it, or leave it to an amend file`,
  "group-moved": ({ before, after }) =>
    `it was sent ${before === "" ? "on its own" : `in the group ${quote(before)}`} and now ${after === "" ? "stands on its own" : `belongs to ${quote(after)}`}; where the channel does not move listings, end the old one first`,
  "category-moved": ({ before, after }) =>
    `it was sent to ${quote(before)} and now goes to ${quote(after)}: the channel will take it for a new listing`,
  "axes-changed": ({ before, after }) =>
    `its group was sent varying by ${before.join(" and ") || "nothing"} and now varies by ${after.join(" and ") || "nothing"}; end the old group there first`,
  "sku-became-another": ({ was, now }) =>
    `the channel knows this SKU as ${quote(was)}, with another barcode; give ${quote(now)} an SKU of its own`,
  "banned-content": ({ label, found, says }) => `${label} contains ${quote(found)}: ${says}`,
  "unlisted-value": ({ label, value, nearest }) =>
    `${quote(value)} is not among the usual values of ${label}${orNearest(nearest)}; the channel takes it, shoppers find listed ones more easily`,
  "axis-not-permitted": ({ axes, permitted }) =>
    `members differ in ${axes.join(" and ")}; the category permits ${permitted.length === 0 ? "no variations" : permitted.join(", ")}; to split such groups or list them alone: channel.yaml, groups: not_permitted`,
  "group-split": ({ axes, permitted, alone }) =>
    alone
      ? `the category does not take ${axes.join(" and ")}: the members are listed alone, as channel.yaml says (groups: not_permitted)`
      : `the category does not take ${axes.join(" and ")}: the group is split by ${axes.length === 1 ? "it" : "them"} and varies by ${permitted.join(" and ")}, as channel.yaml says (groups: not_permitted)`,
  "too-many-axes": ({ limit, actual, axes }) =>
    `members differ in ${axes.join(" and ")}; ${limit === 0 ? "the category takes no variations" : `the category permits ${limit} such ${limit === 1 ? "attribute" : "attributes"}, not ${actual}`}`,
  "too-many-members": ({ limit, actual }) => `the group has ${actual} members, the channel takes ${limit}`,
  "never-sent": ({ purpose }) =>
    `the channel was never sent it, and ${withArticle(purpose)} file speaks of what the channel has; a full file comes first`,
  "lacks-for-purpose": ({ purpose, labels }) =>
    `it has no ${labels.join(" and no ")}, which each row of ${withArticle(purpose)} file must have`,
  "not-selected": ({ condition }) => `it does not meet the channel's condition: ${condition}`,
  "marked-off": ({ attribute, marks }) =>
    attribute === "keep_off"
      ? `the product's own keep_off says ${listed(marks)}; to list it, take the mark away`
      : `the product's own list_on says ${listed(marks)} only; to list it here as well, add the channel there`,
  "digital-left-out": () =>
    "it is a digital good, and channel.yaml leaves those out (selection: digital: no)",
  "hazard-left-out": ({ hazard, taken }) =>
    `its hazard is ${quote(hazard)}, and channel.yaml ${taken.length === 0 ? "takes no hazardous goods" : `takes only ${listed(taken)}`} (selection: hazards)`,
  "country-left-out": ({ sold, countries }) =>
    `it may be sold in ${listed(sold.map((code) => code.toUpperCase()))} only, the channel sells in ${listed(countries)}`,
  "below-least-price": ({ price, least }) =>
    `its price ${price} is below ${least}, the least for this channel (selection: least_price)`,
  "below-least-readiness": ({ percent, least }) =>
    `it has ${percent}% of what the channel requires and recommends, and channel.yaml wants ${least}% (selection: least_readiness)`,
  "price-too-low": ({ attribute, price, bound, moved }) =>
    moved
      ? `${attribute} ${price} is below the lowest allowed and was raised to ${bound}`
      : `${attribute} ${price} is below ${bound}, the lowest that channel.yaml allows; change the price, the rule or the bound`,
  "price-too-high": ({ attribute, price, bound, moved }) =>
    moved
      ? `${attribute} ${price} is above the highest allowed and was lowered to ${bound}`
      : `${attribute} ${price} is above ${bound}, the highest that channel.yaml allows; change the price, the rule or the bound`,
  "price-jump": ({ before, after, percent, limit, file }) =>
    `the price goes from ${before}, which was sent last, to ${after}: ${percent}%, and ${file} allows ${limit}%; if it is meant, build with --confirm-prices and its SKU`,
  "link-missing": ({ label, url, status }) =>
    `${label}: ${url} is not there (the server answers ${status}); correct the address, or put the file there`,
  "link-unreachable": ({ label, url, reason }) => `${label}: ${url} could not be reached: ${reason}`,
  "link-refused": ({ label, url, reason }) => `${label}: ${url} was not asked: ${reason}`,
  "not-a-picture": ({ label, url, type }) =>
    `${label}: ${url} is ${type === "" ? "of no stated type" : quote(type)}, and a picture is wanted`,
  "picture-too-small": ({ label, url, width, height, least }) =>
    `${label}: ${url} is ${width} × ${height} pixels, and at least ${least} × ${least} are wanted`,
  "check-crashed": ({ check, reason }) => `the check ${check} failed on this product: ${reason}`,

  "no-file": ({ path }) => `there is no file ${quote(path)}`,
  "empty-file": ({ path }) => `${quote(path)} is empty; a table has a header row and rows below it`,
  "no-rows": ({ path, columns }) => `${quote(path)} has a header of ${columns} columns and no rows below it`,
  "repeated-column": ({ column, first, second }) =>
    `two columns are named ${quote(column)} (${first} and ${second}); give each a name of its own`,
  "blank-column": ({ column }) => `column ${column} holds values and has no name in the header row; name it`,
  "broken-quote": ({ line }) =>
    `a quoted cell opens at line ${line} and is never closed; close the quote there, or double quotes that belong to the text`,
  "stray-quote": ({ text }) =>
    `a quote inside a quoted cell is not doubled, near ${quote(text)}; write "" for a quote in a text`,
  "wrong-encoding": ({ byte, line, encoding }) =>
    `line ${line} holds the byte ${byte}, which is not UTF-8; save the file as UTF-8, or import it with --encoding ${encoding}`,
  "not-a-table": ({ found }) => `this is no table but ${found}; save it as CSV or XLSX first`,
  "row-too-long": ({ limit }) =>
    `a row is longer than ${limit} characters; a quote is open, or the line ends are missing`,
  "ragged-row": ({ expected, actual }) => `the row has ${actual} cells, the header has ${expected}`,
  "blank-key": ({ key }) => `the row has no ${key}`,
  "repeated-key": ({ key, value }) =>
    `${key} ${quote(value)} stands in an earlier row of this file; only that one was taken`,
  "unreadable-value": ({ attribute, value, problem }) => `${attribute} ${quote(value)}: ${problems[problem]}`,
  "no-key-column": ({ key, columns }) => {
    const shown =
      columns.length > 12
        ? `${columns.slice(0, 12).map(quote).join(", ")} and ${columns.length - 12} more`
        : listed(columns);
    return `no column gives the ${key}; the file has ${shown} (name the column in the source file, under columns; where there is none yet, with --sku)`;
  },
  "unknown-column": ({ column, nearest }) =>
    `the source reads a column ${quote(column)} that the file does not have${orNearest(nearest)}`,
  "no-header": ({ row }) => `there is no row ${row} to be the header`,
  "no-records": ({ path, format }) =>
    `no records are found in ${quote(path)}; name where they are in the source file: records: ${format === "XML" ? "the element of one record" : "the key of their list"}`,
  "broken-data": ({ format, reason }) => `the file is not whole as ${format}: ${reason}; nothing was changed`,
  "broken-record": ({ reason }) => `the line is no JSON object: ${reason}`,
  "unsafe-archive": ({ reason }) => `the archive is not opened: ${reason}`,
  "xml-entities": () =>
    "the file declares entities of its own, by which XML can grow without end or read other files; export it without them",
  "file-changed": ({ path }) =>
    `${quote(path)} changed while it was read; import it when the program that writes it is done; nothing was changed`,
  "file-too-large": ({ path, limit }) =>
    `${quote(path)} is larger than ${limit} MB; split it, or export it as CSV`,
  "too-many-columns": ({ limit }) =>
    `the records have more than ${limit} different fields; name the records in the source file`,
  "unknown-sheet": ({ sheet, nearest, known }) =>
    `there is no sheet ${quote(sheet)}${nearest.length > 0 ? orNearest(nearest) : `; there are: ${listed(known)}`}`,
  "named-otherwise": ({ path, named, found, format }) =>
    `${quote(path)} is named as ${named} and holds ${found}; rename it, or import it with --format ${format}`,
  "column-never-seen": ({ column, nearest }) =>
    `the source reads ${quote(column)}, which no record of the file has${orNearest(nearest)}`,
  "proposal-open": ({ source }) =>
    `nothing was imported: sources/${source}.yaml does not exist yet; look at the proposal above, then run the same again with --accept, or write the file yourself`,

  "repaired-value": ({ attribute, value, now, damage }) =>
    damage === "spaces"
      ? `${attribute} ${quote(value)} was tidied: ${damages[damage]}`
      : `${attribute} ${quote(value)} was read as ${quote(now)}: ${damages[damage]}`,
  "damaged-value": ({ attribute, value, damage, candidates }) =>
    `${attribute} ${quote(value)} was not taken: ${damages[damage]}${candidates.length === 0 ? "" : `, it can have been ${candidates.map(quote).join(" or ")}`}; correct it in the file`,
  "damaged-key": ({ key, value }) =>
    `${key} ${quote(value)} is what a spreadsheet made of a number or a date; format the column as text and enter it again`,
  "restricted-gtin": ({ value }) =>
    `${value} is a barcode for use within one shop or region; no channel can know the product by it`,
  "unmatched-key": ({ key, value, adds }) =>
    value === ""
      ? "the row has none of the keys by which products are found"
      : `no product has the ${key} ${quote(value)}${adds ? ", and the row has no SKU to add it under" : "; this source only updates"}`,
  "ambiguous-key": ({ key, value, skus }) =>
    `${key} ${quote(value)} is that of several products: ${listed(skus)}; give the row its SKU`,
  "reused-sku": ({ sku, was, now }) =>
    `${quote(sku)} was ${quote(was)} and comes as ${quote(now)} with another barcode; give the new product an SKU of its own`,
  "known-already": ({ sku }) => `${quote(sku)} is in the catalogue; this source only adds`,
  "same-gtin": ({ gtin, others }) =>
    `the barcode ${gtin} is also that of ${listed(others)}; one of them is wrong`,
  "alike-names": ({ name, other }) =>
    `the name ${quote(name)} has the same words as that of ${quote(other)}, which is of another group; if they are one product, keep one of them`,
  "shared-picture": ({ url, families, skus }) =>
    `the picture ${url} is shown by ${families} different articles, such as ${listed(skus)}; shoppers take them for one`,
  "copied-description": ({ families, skus }) =>
    `${families} different articles have the same description, such as ${listed(skus)}; say in each what it is`,
  "sku-twin": ({ sku, other }) =>
    `${quote(sku)} and ${quote(other)} differ only in case, spaces or zeros; if they are one product, correct the file`,
  "single-member": ({ group }) => `the group ${quote(group)} has this one member`,
  "group-without-record": ({ group }) => `the group ${quote(group)} has no row of its own in the catalogue`,
  "same-axes": ({ group, other, values }) =>
    `in the group ${quote(group)} it has the same ${values} as ${quote(other)}; tell them apart`,
  "missing-part": ({ part }) =>
    `the part ${quote(part)} is not in the catalogue; the bundle counts as out of stock`,
  vanished: ({ layer, dropped }) =>
    dropped
      ? `the new delivery of ${layer} does not have it; what ${layer} said of it was taken back`
      : `the new delivery of ${layer} does not have it; it stays until you import with --drop-vanished`,
  "changed-sku": ({ was, now }) =>
    now === ""
      ? `the SKU of this row was ${quote(was)} and is blank now; nothing was taken from the row: write the SKU again`
      : `the SKU of this row was ${quote(was)} and is ${quote(now)} now; nothing was taken from the row: write the right one again`,
  "another-shop": ({ shop, own }) =>
    `this gap sheet was made for ${quote(shop)}, and this is the workspace of ${quote(own)}; nothing was taken`,
  "older-sheet": ({ channel, then, now }) =>
    `this gap sheet was made when ${channel} had version ${then}; answers are held against ${now}`,
  "answer-without-question": ({ channel, field }) =>
    `${channel} asks nothing of this product in ${quote(field)} any more; the answer was not taken`,
  "contradicting-answers": ({ term, first, value }) =>
    `${quote(term)} is ${quote(first)} in an earlier row and ${quote(value)} here; a term has one value: the first was taken`,
  "unknown-revision": ({ revision, latest }) =>
    `there is no revision ${quote(revision)}${latest > 0 ? `; the latest is ${latest}` : ""} ("lexicant history" lists them)`,
  "undone-already": ({ revision, by }) =>
    `revision ${revision} was undone by revision ${by}; to have it back, undo that: lexicant undo ${by}`,
  "later-revisions": ({ revision, later, layer }) =>
    `after revision ${revision} came ${later.length === 1 ? "another" : `${later.length} others`} into ${layer} (${later.slice(0, 5).join(", ")}${later.length > 5 ? ", …" : ""}); undo all of them with --through, or this one alone with --alone`,
  "nothing-to-undo": () => "there is nothing to undo",
  "unknown-attribute": ({ attribute, nearest }) =>
    `no product has an attribute ${quote(attribute)}${orNearest(nearest)}`,
  "cell-too-long": ({ sku, attribute, limit }) =>
    `${attribute} of ${quote(sku)} is longer than a workbook's cell can be (${limit} characters); export CSV, or leave it out with --only`,
  "file-exists": ({ path }) =>
    `${quote(path)} is there already; name another file, or write over it with --force`,

  "no-workspace": ({ folder }) =>
    `there is no lexicant.yaml in ${quote(folder)} or above it; run "lexicant init" there, or name a workspace with -C`,
  "workspace-exists": ({ folder }) => `${quote(folder)} is a workspace already; nothing was changed`,
  "folder-not-empty": ({ folder }) => `${quote(folder)} is not empty; name a new folder`,
  "yaml-syntax": ({ reason }) => `the file is not YAML: ${reason}`,
  "wrong-setting": ({ key, reason }) => `${key}: ${reason}`,
  "unknown-setting": ({ key, nearest }) => `${quote(key)} is no setting here${orNearest(nearest)}`,
  "missing-file": ({ path, what }) => `${what} ${quote(path)} does not exist`,
  "unknown-channel": ({ channel, nearest, known }) =>
    `there is no channel ${quote(channel)}${nearest.length > 0 ? orNearest(nearest) : `; there are: ${listed(known)}`}`,
  "channel-not-in-use": ({ channel, inUse }) =>
    `${quote(channel)} is not in use in this workspace${inUse.length === 0 ? "" : ` (in use: ${listed(inUse)})`}; take it into use with "lexicant init --channel ${channel}"`,
  "unknown-source": ({ source, known }) =>
    `there is no source ${quote(source)}${known.length === 0 ? "" : `; there are: ${listed(known)}`} (write sources/${source}.yaml)`,
  "unknown-layer": ({ layer, nearest, known }) =>
    `${quote(layer)} is no layer of lexicant.yaml${nearest.length > 0 ? orNearest(nearest) : known.length === 0 ? "" : `; its layers are ${listed(known)}`}; add it to the list of layers there`,
  "unknown-sku": ({ sku, nearest }) =>
    `there is no product ${quote(sku)}${orNearest(nearest)}; "lexicant list" shows them all`,
  "unknown-purpose": ({ purpose, channel, known }) =>
    `${channel} takes no ${quote(purpose)} files; its purposes are ${listed(known)}`,
  "many-withdrawn": ({ channel, count, of, limit }) =>
    `${count} of the ${of} listings that ${channel} has would be withdrawn, more than ${limit}%; look at them with --dry-run, and if it is meant, build with --yes`,
  "unknown-option": ({ reason }) => reason,
  "expression-syntax": ({ reason, snippet }) => `${reason}\n${snippet}`,
  "unknown-name": ({ name, nearest, advice, snippet, what }) =>
    `there is no ${what} ${quote(name)}${advice === "" ? orNearest(nearest) : `; ${advice}`}\n${snippet}`,
  "unknown-function": ({ name, nearest, advice, snippet }) =>
    `there is no function ${quote(name)}${advice === "" ? orNearest(nearest) : `; ${advice}`}\n${snippet}`,
  "wrong-arguments": ({ name, usage, snippet }) => `${name} is used as ${usage}\n${snippet}`,
  "kind-mismatch": ({ reason, snippet }) => `${reason}\n${snippet}`,
  "expression-too-deep": ({ limit }) => `brackets and braces nest deeper than ${limit}; split the expression`,
  "unknown-category": ({ category, nearest }) =>
    `${quote(category)} is no category of the channel${orNearest(nearest)}`,
  "unknown-field": ({ field, nearest }) => `${quote(field)} is no field of the channel${orNearest(nearest)}`,
  "contradicting-rows": ({ what, first }) => `two rows decide ${what}; the first is ${first}: keep one`,
  "closed-category": ({ category }) => `${quote(category)} takes no listings; choose a category below it`,

  "missing-column": ({ column }) => `the table has no column ${quote(column)}`,
  "blank-cell": ({ column }) => `the cell in ${quote(column)} is blank`,
  "wrong-cell": ({ column, value, expected }) => `${column} is ${quote(value)}; expected is ${expected}`,
  "repeated-category": ({ category }) => `two categories have the code ${quote(category)}`,
  "orphan-category": ({ category, parent }) =>
    `the parent ${quote(parent)} of ${quote(category)} does not exist`,
  "category-cycle": ({ categories }) => `categories stand in a circle: ${categories.join(" > ")}`,
  "field-without-kind": ({ field }) => `the field ${quote(field)} has no kind in its first row`,
  "empty-value-list": ({ list }) => `the value list ${quote(list)} has no values`,
  "wrong-pattern-source": ({ pattern, reason }) => `the pattern ${quote(pattern)} cannot be used: ${reason}`,

  "cannot-read": ({ path, reason }) => `cannot read ${quote(path)}: ${reason}`,
  "cannot-write": ({ path, reason }) => `cannot write ${quote(path)}: ${reason}; nothing was changed`,
  "store-newer": ({ path, found, known }) =>
    `${quote(path)} was written by a newer Lexicant (store version ${found}, this one knows up to ${known}); update Lexicant`,
  "store-damaged": ({ path, reason }) =>
    `${quote(path)} cannot be opened as a store: ${reason}; restore it from a copy, or move it away and import again`,
  "store-busy": ({ path }) =>
    `${quote(path)} is in use by another Lexicant that writes to it; try again when that one is done`,
  "internal-fault": ({ reason }) => `a fault in Lexicant itself: ${reason}`,
};

/** The one sentence of a finding, without its place. */
export const sentence = ({ code, facts }: Pick<Diagnostic, "code" | "facts">): string =>
  (sentences[code] as Sentence<Code>)(facts as never);

const noteWords = { rule: "asked by", fill: "filled by", value: "value from", other: "see" } as const;

export const noteText = ({ note, place }: NonNullable<Diagnostic["notes"]>[number]): string =>
  `${noteWords[note]} ${placeText(place)}`;

/** Every code that has a wording, for the page that explains them. */
export const codes = Object.keys(sentences) as readonly Code[];
