/** One played channel: takes files, judges rows, shows what it accepted, remembers, and has moods. */
import { createHash } from "node:crypto";
import type { ChannelData, Purpose } from "./channel-data.js";
import { judge, type Objection } from "./judge.js";
import { flat, readRows, Unreadable, type ArrivedRow, type SentCell } from "./read-rows.js";
import { at, has, put } from "./named.js";

/** What the channel shows. */
export interface ListedThing {
  readonly id: string;
  readonly isGroup: boolean;
  /** The reference of the group that it stands in; "". */
  readonly group: string;
  readonly cells: Readonly<Record<string, SentCell>>;
}

/** What the channel says of one row. */
export interface Verdict {
  readonly reference: string;
  readonly line: number;
  readonly isAccepted: boolean;
  readonly id: string;
  readonly code: string;
  /** The column that it speaks of. */
  readonly field: string;
  readonly message: string;
}

/** A file that came, and what becomes of it. */
export interface PlayedJob {
  readonly number: number;
  readonly name: string;
  readonly key: string;
  readonly sha256: string;
  /** Milliseconds since 1970 when it came, and when it will have been read. */
  readonly at: number;
  readonly due: number;
  readonly purpose: string;
  readonly isUnreadable: boolean;
  readonly because: string;
  readonly rows: readonly ArrivedRow[];
  readonly isDone: boolean;
  readonly verdicts: readonly Verdict[];
}

/** What a played channel keeps between two starts. */
export interface ChannelState {
  shown: Record<string, ListedThing>;
  jobs: PlayedJob[];
  names: string[];
  lastId: number;
  /** Words that it refuses in a field, by a rule of the house that no definition tells. */
  dislikes: { readonly field: string; readonly word: string }[];
  /** What it does wrong from now on, and how often still. */
  moods: Record<string, number>;
}

/** A channel that nobody has sent anything. */
export const freshState = (): ChannelState => ({
  shown: {},
  jobs: [],
  names: [],
  lastId: 0,
  dislikes: [],
  moods: {},
});

/** A file as it comes. */
export interface Arrival {
  readonly name: string;
  readonly bytes: Buffer;
  readonly key: string;
  /** The word for what is to happen, where it comes beside the file; "". */
  readonly action: string;
}

const keyOf = (reference: string, isGroup: boolean): string => (isGroup ? `group ${reference}` : reference);

/** What the house does to texts by itself, when it is in the mood. */
function tidied(cell: SentCell, ways: readonly string[]): SentCell {
  if (typeof cell !== "string") return ways.includes("order") ? [...cell].reverse() : cell;
  let text = cell;
  if (ways.includes("spaces")) text = text.replace(" ", "  ");
  if (ways.includes("case")) text = text.toUpperCase();
  if (ways.includes("marks")) text = text.replace(", ", " – ");
  if (ways.includes("order") && text.includes("|")) text = text.split("|").reverse().join("|");
  return text;
}

/** One channel, as it behaves. */
export class PlayedChannel {
  private readonly judge;

  constructor(
    readonly data: ChannelData,
    readonly state: ChannelState,
    private readonly pace: number,
  ) {
    this.judge = judge(data);
  }

  /** Whether it is in a mood; each time uses one up. */
  isIn(mood: string): boolean {
    const left = at(this.state.moods, mood) ?? 0;
    if (left <= 0) return false;
    this.wish(mood, left - 1);
    return true;
  }

  /** From now on it is in a mood, so many times. */
  wish(mood: string, times: number): void {
    put(this.state.moods, mood, times);
  }

  private purposeOf(action: string): Purpose {
    const { purposes } = this.data;
    const found =
      purposes.find((one) => one.action !== "" && one.action === action) ??
      purposes.find((one) => one.purpose === "full");
    if (found === undefined) throw new Unreadable("nothing says what is to happen");
    return found;
  }

  private has(reference: string): boolean {
    return has(this.state.shown, keyOf(reference, false)) || has(this.state.shown, keyOf(reference, true));
  }

  /** Whether a file of this name was taken before, where each may come once. */
  isRepeated(name: string): boolean {
    return this.data.nameOnce && this.state.names.includes(name);
  }

  findByName(name: string): PlayedJob | undefined {
    return [...this.state.jobs].reverse().find((job) => job.name === name);
  }

  findByKey(key: string): PlayedJob | undefined {
    return key === "" ? undefined : this.state.jobs.find((job) => job.key === key);
  }

  job(number: number): PlayedJob | undefined {
    return this.state.jobs.find((job) => job.number === number);
  }

  /** Looks at a file without effect. */
  async look({ bytes, action }: Pick<Arrival, "bytes" | "action">): Promise<readonly Verdict[]> {
    const rows = await readRows(bytes, this.data);
    return rows.map((row) => this.verdict(row, this.purposeOf(row.action || action)));
  }

  async arrive({ name, bytes, key, action }: Arrival, now: number): Promise<PlayedJob> {
    const base = {
      number: (this.state.jobs.at(-1)?.number ?? 4100) + 1,
      name,
      key,
      sha256: createHash("sha256").update(bytes).digest("hex"),
      at: now,
      due: now + this.pace,
      isDone: false,
      verdicts: [],
    };
    let job: PlayedJob;
    try {
      if (this.isIn("unreadable")) throw new Unreadable("its third page is stained");
      const rows = await readRows(bytes, this.data);
      job = { ...base, rows, purpose: this.purposeOf(action).purpose, isUnreadable: false, because: "" };
      job = { ...job, rows: rows.map((row) => ({ ...row, action: row.action || action })) };
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      job = { ...base, rows: [], purpose: "", isUnreadable: true, because: error.message };
    }
    this.state.jobs.push(job);
    this.state.names.push(name);
    return job;
  }

  /** Does what is due, in the order in which it came. */
  advance(now: number): boolean {
    let hasMoved = false;
    this.state.jobs = this.state.jobs.map((job) => {
      if (job.isDone || job.due > now) return job;
      hasMoved = true;
      return { ...job, isDone: true, verdicts: job.isUnreadable ? [] : this.work(job) };
    });
    return hasMoved;
  }

  private verdict(row: ArrivedRow, purpose: Purpose): Verdict {
    const reference = this.judge.referenceOf(row);
    const objection = this.judge.objection(row, purpose, (one) => this.has(one)) ?? this.disliked(row);
    const column = this.data.layout.columns.find(({ field }) => field === objection?.field)?.name ?? "";
    return {
      reference,
      line: row.line,
      isAccepted: objection === undefined,
      id: "",
      code: objection?.code ?? "",
      field: column,
      message: objection?.message ?? "",
    };
  }

  private disliked(row: ArrivedRow): Objection | undefined {
    for (const { field, word } of this.state.dislikes) {
      const names = this.data.layout.columns
        .filter((column) => column.field === field)
        .map(({ name }) => name);
      if (names.some((name) => flat(at(row.cells, name)).toLowerCase().includes(word.toLowerCase())))
        return { code: "240", field, message: `the word "${word}" is not wanted here` };
    }
    return undefined;
  }

  private work({ rows }: PlayedJob): readonly Verdict[] {
    const seen = new Set<string>();
    const groupsTaken = new Set<string>();
    const verdicts = rows.map((row): Verdict => {
      const purpose = this.purposeOf(row.action);
      const verdict = this.verdict(row, purpose);
      const key = keyOf(verdict.reference, row.isGroup);
      if (!verdict.isAccepted) return verdict;
      if (seen.has(key))
        return {
          ...verdict,
          isAccepted: false,
          code: "110",
          field: "",
          message: "the number stands twice in the file",
        };
      seen.add(key);
      const id = this.take(row, verdict.reference, purpose);
      if (row.isGroup) groupsTaken.add(verdict.reference);
      return { ...verdict, id };
    });
    const isWhole = !this.data.purposes.some(({ purpose }) => purpose === "withdraw");
    if (isWhole) {
      const inFile = new Set(rows.map((row) => keyOf(this.judge.referenceOf(row), row.isGroup)));
      for (const key of Object.keys(this.state.shown)) if (!inFile.has(key)) this.remove(key);
    }
    this.dropEmptyGroups(groupsTaken);
    if (this.isIn("half")) return verdicts.filter((_, index) => index % 2 === 0);
    if (this.isIn("stranger"))
      return [
        ...verdicts,
        { reference: "NO-SUCH-ROW-1", line: 0, isAccepted: true, id: "", code: "", field: "", message: "" },
        {
          reference: "NO-SUCH-ROW-2",
          line: 0,
          isAccepted: false,
          id: "",
          code: "101",
          field: "",
          message: "empty",
        },
      ];
    return verdicts;
  }

  private remove(key: string): void {
    this.state.shown = Object.fromEntries(Object.entries(this.state.shown).filter(([own]) => own !== key));
  }

  /** A group of which nothing is left is not shown. */
  private dropEmptyGroups(taken: ReadonlySet<string>): void {
    const alive = new Set(
      Object.values(this.state.shown)
        .filter(({ isGroup }) => !isGroup)
        .map(({ group }) => group),
    );
    for (const [key, { isGroup, group }] of Object.entries(this.state.shown))
      if (isGroup && !alive.has(group) && !taken.has(group)) this.remove(key);
  }

  private take(row: ArrivedRow, reference: string, { purpose, blank, may, must }: Purpose): string {
    const { shown } = this.state;
    const isGroup =
      row.isGroup || (has(shown, keyOf(reference, true)) && !has(shown, keyOf(reference, false)));
    const key = keyOf(reference, isGroup);
    const before = at(shown, key);
    const id =
      before?.id ??
      `${this.data.channel.slice(0, 2).toUpperCase()}${String(++this.state.lastId).padStart(7, "0")}`;
    if (purpose === "withdraw") {
      this.remove(key);
      return id;
    }
    const { columns } = this.data.layout;
    const fieldOf = (name: string): string => columns.find((column) => column.name === name)?.field ?? "";
    const said = Object.fromEntries(
      Object.entries(row.cells).filter(([name]) => name === this.kindColumn() || fieldOf(name) !== ""),
    );
    const ways = this.isIn("tidies") ? this.data.exchange.live?.["alters"] : undefined;
    const altered = Object.fromEntries(
      Object.entries(said).map(([name, cell]) => [
        name,
        this.altered(name, fieldOf(name), cell, ways as never),
      ]),
    );
    const erases = purpose === "full" || blank === "erase";
    const inFile = (name: string): boolean =>
      purpose === "full" || may.length === 0 || [...may, ...must].includes(fieldOf(name));
    const kept = Object.fromEntries(
      Object.entries(before?.cells ?? {}).filter(([name]) => !(erases && inFile(name))),
    );
    const own = flat(at(row.cells, this.groupColumn())) || flat(at(row.within, this.groupColumn()));
    put(shown, key, {
      id,
      isGroup,
      group: isGroup ? reference : own || (before?.group ?? ""),
      cells: { ...kept, ...altered },
    });
    return id;
  }

  private altered(
    name: string,
    field: string,
    cell: SentCell,
    ways: Readonly<Record<string, readonly string[]>> | undefined,
  ): SentCell {
    const own =
      ways === undefined ||
      field === this.data.identifiedBy ||
      field === this.data.groupField ||
      name === this.kindColumn()
        ? []
        : [...(at(ways, field) ?? []), ...(ways["*"] ?? [])];
    const rule = this.data.fields.find((row) => row["field"] === field && row["scope"] === "*");
    const isText = rule?.["kind"] === "text" || (rule?.["list"] ?? "") === "yes";
    return own.length === 0 || !isText || field === this.data.categoryField ? cell : tidied(cell, own);
  }

  private kindColumn(): string {
    return this.data.exchange.live?.["kind"] ?? "";
  }

  private groupColumn(): string {
    return this.data.layout.columns.find(({ field }) => field === this.data.groupField)?.name ?? "";
  }

  /** Thinks otherwise of rows that it had accepted: they are refused now, and what they brought is gone. */
  thinkAgain(job: PlayedJob, count: number): void {
    let left = count;
    const verdicts = job.verdicts.map((verdict): Verdict => {
      if (!verdict.isAccepted || left <= 0 || has(this.state.shown, keyOf(verdict.reference, true)))
        return verdict;
      left--;
      this.remove(verdict.reference);
      return {
        ...verdict,
        isAccepted: false,
        code: "250",
        field: "",
        message: "looked at again, and not wanted",
      };
    });
    this.state.jobs = this.state.jobs.map((one) => (one.number === job.number ? { ...one, verdicts } : one));
  }

  /** What a person at the channel changes: cells of what is shown, its end, or something of their own. */
  byHand(reference: string, cells: Readonly<Record<string, SentCell>> | undefined): void {
    const key = keyOf(reference, false);
    if (cells === undefined) {
      this.remove(key);
      return;
    }
    const before = at(this.state.shown, key) ?? {
      id: `BY-HAND-${reference}`,
      isGroup: false,
      group: "",
      cells: {},
    };
    put(this.state.shown, key, { ...before, cells: { ...before.cells, ...cells } });
  }
}
