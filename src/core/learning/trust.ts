/**
 * How far what was read is believed: one number for each way of knowing, from 0 to 1, in one place, so that they can be
 * weighed against each other. What stands above `SURE` is told as sure, what stands below `OPEN` is asked (`claim.ts`).
 *
 * They were set on the bench's templates (`npm run bench templates`), by the order in which sources that disagree turned out
 * right; a difference of a few hundredths only says which of two speaks first.
 */
export const trust = {
  // What a template's head and cells say.
  /** A heading that people read. */
  label: 0.97,
  /** A heading that is a code, or none. */
  codeAsLabel: 0.85,
  /** A row that says the need of each column. */
  needRow: 0.97,
  /** A mark at the heading: `*`, "(required)". */
  headingMark: 0.94,
  /** Its colour, where a legend says what that means. */
  headingColour: 0.93,
  /** The group of columns that it stands under. */
  headingGroup: 0.9,
  /** A rule within the heading: "Title (max. 80)". */
  headingRule: 0.9,
  /** A sentence of rules: a note, a row of guidance, a guide's meaning. */
  ruleText: 0.92,
  /** The same as help, word for word. */
  helpText: 0.9,
  /** A row that lists values. */
  valueRow: 0.95,
  /** That what has such a row is a choice. */
  choiceByValues: 0.93,
  /** A row of lengths. */
  lengthRow: 0.93,
  /** A rule of the cells, where the workbook checks it. */
  cellRule: 0.95,
  /** A drop-down's values. */
  cellRuleValues: 0.97,
  /** That what has one is a choice. */
  cellRuleChoice: 0.94,
  /** That other values are let through. */
  cellRuleOpen: 0.9,
  /** A number by the workbook's own check. */
  cellRuleNumber: 0.9,
  /** A text by its check of the length. */
  cellRuleText: 0.8,
  /** What the workbook says of a wrong cell. */
  cellRuleMessage: 0.85,
  /** A filled row's cell as an example. */
  example: 0.85,
  // What filled cells look like.
  /** All are web addresses. */
  looksLink: 0.8,
  /** All are days. */
  looksDate: 0.82,
  /** In this form. */
  dateForm: 0.8,
  /** In one that reads two ways. */
  doubtfulDateForm: 0.6,
  /** All have decimals. */
  looksDecimal: 0.68,
  /** So many, all of them. */
  looksPlaces: 0.6,
  /** All are whole numbers. */
  looksInteger: 0.66,
  /** Some have letters. */
  looksText: 0.62,
  /** Less by so much where there are one or two. */
  fewExamples: 0.1,
  // What a name says.
  /** A unit in it: "Weight (kg)". */
  nameUnit: 0.92,
  /** That what has one is a measure. */
  nameMeasure: 0.89,
  /** A word that tells the kind. */
  nameKind: 0.72,
  /** The attribute that it is a usual name of. */
  nameAttribute: 0.7,
  /** The same, where the attribute is free text: it may be a choice here. */
  nameFreeText: 0.64,
  /** A name as sure as this is taken for the attribute's. */
  knownName: 0.6,
  // What a guide, a list and a sentence say.
  /** A guide's column of needs. */
  guideNeed: 0.95,
  /** Its columns of kinds and numbers. */
  guideFact: 0.93,
  /** Its column of units. */
  guideUnit: 0.94,
  /** Its examples. */
  guideExample: 0.88,
  /** That several may stand, where it says how many. */
  guideList: 0.9,
  /** That what it lists values for is a choice. */
  guideChoice: 0.92,
  /** A table of values that names the field. */
  listFile: 0.92,
  /** That what has one is a choice. */
  listChoice: 0.9,
  /** A share of a claim's, where the list was found by its place alone. */
  foreignList: 0.9,
  /** A share of a sentence's, for what it says besides. */
  withSentence: 0.95,
  /** A share of a sentence's, for a need told in it. */
  needInSentence: 0.97,
  /** A condition told in words: what it means is for a person. */
  inWords: 0.5,
  // What a schema says.
  /** Whatever a schema demands. */
  schema: 0.98,
  /** Whatever a sample shows. */
  sample: 0.7,
  /** That a schema's string is a text: much is called one. */
  schemaText: 0.9,
  /** Rules in a schema's own words. */
  schemaWords: 0.8,
  /** That what a sample has may be missing: it cannot know. */
  sampleNeed: 0.35,
  /** Its default value. */
  schemaDefault: 0.9,
  // What follows from columns seen together.
  /** Columns with numbered names are one list. */
  sideBySide: 0.96,
  /** Others are marked, this one is not: optional. */
  unmarked: 0.9,
  /** Nobody says whether it must be filled. */
  nothingSaid: 0.35,
  /** A condition that could be read as an expression. */
  readCondition: 0.75,
  /** A fill that another field has already. */
  furtherField: 0.55,
  // What a field means, and what fills it.
  /** The catalogue has an attribute of that name. */
  catalogueName: 0.9,
  /** It is a usual name of one of ours. */
  usualName: 0.93,
  /** Its name speaks of one of ours. */
  speaksOfIt: 0.72,
  /** Its name is hardly more than that. */
  isItsName: 0.9,
  /** A share, where it is the field's second name. */
  secondName: 0.9,
  /** The most that common values can say. */
  valuesMost: 0.85,
  /** The least. */
  valuesLeast: 0.5,
  /** By the share of the list that the shop knows. */
  valuesShare: 0.4,
  /** Its list has one value. */
  onlyValue: 0.8,
  /** The price's currency. */
  currencyField: 0.85,
  /** A heading as sure as this names the attribute itself. */
  surelyNamed: 0.9,
  // What the channel as a whole is.
  /** An element repeats within the listing: nested. */
  nestedMembers: 0.8,
  /** Members share a reference. */
  sharedReference: 0.7,
  /** Members name the one above them. */
  parentColumn: 0.55,
  /** No column ties members together: separate. */
  noGroupColumn: 0.6,
  /** An example writes numbers with a comma. */
  decimalComma: 0.85,
  /** A field whose meaning nobody told. */
  someMeaning: 0.3,
  // How claims of one field are weighed (settle.ts).
  /** Nothing that was read is surer. */
  most: 0.99,
  /** For each further source that says the same. */
  furtherSource: 0.03,
  /** A lead over the next that settles it. */
  clearLead: 0.25,
  /** The most without one; the lead comes on top. */
  narrowLead: 0.55,
  /** A hint where nothing else speaks. */
  hint: 0.7,
  /** What is filled in where nothing speaks. */
  guess: 0.5,
  /** A choice of which no value is known. */
  guessedChoice: 0.45,
  /** Money by a word, where numbers are claimed. */
  moneyWord: 0.9,
  /** Money, where several claims say so. */
  moneyTogether: 0.8,
  /** A number that may be a measure. */
  doubtful: 0.55,
  /** A measure by its unit. */
  measureWithUnit: 0.89,
  /** A length that something speaks against. */
  doubtfulLength: 0.75,
  /** A choice by its list. */
  listedChoice: 0.95,
  /** Two that differ by no more say it alike. */
  hair: 0.02,
} satisfies Readonly<Record<string, number>>;
