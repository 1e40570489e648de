/** Asks the web addresses that channels' listings show. */
import type { CategoryField } from "../../core/channel/category-rules.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Listing } from "../../core/listing/listing.js";
import { isList } from "../../core/values/value.js";
import { shownText } from "../../core/values/show.js";
import { askInTurn, linkAsker, type LinkAnswer, type LinkAsker } from "../../exchange/links.js";
import type { LinkAnswers } from "../../store/link-answers.js";
import { everything, type Choice } from "../choice/chosen.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { runChannels } from "../run-channels.js";

/** How addresses are checked. */
export interface LinkCheck {
  readonly choice?: Choice;
  readonly allowPrivate: boolean;
  now(): Date;
  /** Is given each finding as it is made. */
  onFinding(finding: Diagnostic): void;
  /** Is told now and then how many addresses were asked. */
  onProgress(asked: number): void;
}

/** What came of the addresses that one channel's listings show. */
export interface LinkTally {
  readonly channel: WorkspaceChannel;
  readonly causes: CauseCollector;
  readonly shown: number;
  readonly broken: number;
}

const AT_ONCE = 16;
const PER_HOST = 2;
const TIMEOUT = 8000;
const BATCH = 256;
const TOLD_EACH = 50;
const REMEMBERED = 50_000;
const DAY = 24 * 60 * 60 * 1000;

/** An answer as it is kept, with whether the size of a picture was looked for. */
type KeptAnswer = LinkAnswer & { readonly asPicture: boolean };

/** Where a listing shows an address. */
interface Use {
  readonly url: string;
  readonly rule: CategoryField;
  readonly listing: Listing;
  readonly tally: GrowingTally;
}

interface GrowingTally extends LinkTally {
  shown: number;
  broken: number;
}

/** Asks every web address that the channels' listings show, batch by batch as the catalogue is read. */
export async function checkLinks(
  channels: readonly WorkspaceChannel[],
  store: Store,
  check: LinkCheck,
): Promise<readonly LinkTally[]> {
  const asker = linkAsker({ allowPrivate: check.allowPrivate, timeout: TIMEOUT });
  const run = new LinkRun(asker, store.linkAnswers(), check);
  const tallies = channels.map((channel): GrowingTally => ({
    channel,
    causes: causeCollector(),
    shown: 0,
    broken: 0,
  }));
  try {
    const { choice = everything } = check;
    await runChannels(
      store,
      tallies.map((tally) => ({
        channel: tally.channel,
        see(listing) {
          if (choice.isMeant(listing.product, tally.channel.setup.channel)) run.note(listing, tally);
        },
        take: () => run.settleIfMany(),
      })),
      { choice },
    );
    await run.settle();
  } finally {
    await asker.close();
  }
  return tallies;
}

class LinkRun {
  private readonly uses: Use[] = [];
  private readonly known = new Map<string, LinkAnswer>();
  private asked = 0;

  constructor(
    private readonly asker: LinkAsker,
    private readonly kept: LinkAnswers,
    private readonly check: LinkCheck,
  ) {}

  note(listing: Listing, tally: GrowingTally): void {
    for (const { rule } of listing.plan.fields) {
      if (rule.field.kind !== "url") continue;
      const value = listing.value(rule.field.slot);
      for (const url of value === undefined ? [] : isList(value) ? value : [value])
        this.uses.push({ url: shownText(url), rule, listing, tally });
    }
  }

  settleIfMany(): Promise<void> | undefined {
    return this.uses.length >= BATCH ? this.settle() : undefined;
  }

  async settle(): Promise<void> {
    const uses = this.uses.splice(0);
    await this.askAll(uses);
    for (const use of uses) this.tell(use);
    if (this.known.size > REMEMBERED) this.known.clear();
  }

  private async askAll(uses: readonly Use[]): Promise<void> {
    const now = this.check.now();
    const pictures = new Set(uses.filter(({ rule }) => isPicture(rule)).map(({ url }) => url));
    const unknown = [...new Set(uses.map((use) => use.url))].filter((url) => !this.known.has(url));
    const before = await this.kept.of(unknown, new Date(now.getTime() - DAY).toISOString());
    const open = unknown.filter((url) => {
      const kept = before.get(url);
      const answer = kept === undefined ? undefined : (JSON.parse(kept) as KeptAnswer);
      // A page's address may turn out to be a picture's as well: then its size is still to be asked.
      if (answer?.link !== "there" || (pictures.has(url) && !answer.asPicture)) return true;
      this.known.set(url, answer);
      return false;
    });
    const there = new Map<string, string>();
    await askInTurn(open, { atOnce: AT_ONCE, perHost: PER_HOST }, async (url) => {
      const answer = await this.asker.ask(url, pictures.has(url));
      this.known.set(url, answer);
      // What is broken is asked again next time: it may be mended by then.
      if (answer.link === "there" && answer.flaw === undefined)
        there.set(url, JSON.stringify({ ...answer, asPicture: pictures.has(url) }));
      this.asked++;
      if (this.asked % TOLD_EACH === 0) this.check.onProgress(this.asked);
    });
    // What is only remembered to save time waits for nobody who writes to the store.
    await this.kept.keep(there, now.toISOString()).catch((error: unknown) => {
      if (!(error instanceof Refusal)) throw error;
    });
  }

  private tell({ url, rule, listing, tally }: Use): void {
    tally.shown++;
    const found = findingOf(url, rule, this.known.get(url));
    if (found === undefined) return;
    tally.broken++;
    const finding = {
      ...found,
      product: listing.product.sku,
      channel: tally.channel.setup.channel,
      category: listing.plan.rules.category.code,
      field: rule.field.code,
      notes: [{ note: "rule", place: rule.place }],
    } as Diagnostic;
    tally.causes.add(finding);
    this.check.onFinding(finding);
  }
}

const isPicture = ({ limits }: CategoryField): boolean => limits.minPixels !== undefined;

function findingOf(
  url: string,
  { field: { label }, limits: { minPixels } }: CategoryField,
  answer: LinkAnswer | undefined,
): Diagnostic | undefined {
  if (answer === undefined) return undefined;
  switch (answer.link) {
    case "refused":
      return diagnostic("link-refused", { label, url, reason: answer.reason }, {}, "warning");
    case "unreachable":
      return diagnostic("link-unreachable", { label, url, reason: answer.reason });
    case "missing":
      return diagnostic("link-missing", { label, url, status: answer.status });
    case "there": {
      if (minPixels === undefined) return undefined;
      const { type, width, height, flaw } = answer;
      if (!type.startsWith("image/")) return diagnostic("not-a-picture", { label, url, type });
      if (flaw !== undefined) return diagnostic("broken-picture", { label, url, reason: flaw });
      if (width === undefined || height === undefined || (width >= minPixels && height >= minPixels))
        return undefined;
      return diagnostic("picture-too-small", { label, url, width, height, least: minPixels });
    }
  }
}
