/** Counts what became of products on a channel; how a command ends by it. */
import { causeCollector, type CauseCollector, type TakeAgain } from "../core/diagnostics/causes.js";
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import { isSilenced, type Silence } from "../core/diagnostics/silence.js";
import type { Judged, KeptJudged } from "../core/listing/judged.js";
import type { ExitCode } from "../io/exit-code.js";

/** 0 all ready, 1 more products are held than is allowed, 3 a check itself failed: what it would have said is not known. */
export function exitFor(runs: readonly ChannelCounts[], mostHeld = 0): ExitCode {
  if (runs.some(({ causes }) => causes.has("check-crashed"))) return 3;
  return runs.reduce((sum, { held }) => sum + held, 0) > mostHeld ? 1 : 0;
}

/** What a build's end depends on. */
interface EndedBuild {
  readonly counts: Pick<ChannelCounts, "ready" | "held" | "causes">;
  readonly isEmpty: boolean;
}

/**
 * 0 what was asked for was done, whatever is held (that is told); 1 nothing of it could be done, or `strict` wants all;
 * 3 a check itself failed.
 */
export function exitForBuilds(
  builds: readonly EndedBuild[],
  { strict, dryRun }: { readonly strict: boolean; readonly dryRun: boolean },
): ExitCode {
  if (builds.some(({ counts }) => counts.causes.has("check-crashed"))) return 3;
  const isHeld = builds.some(({ counts }) => counts.held > 0);
  // Where listings are ready and none is in a file, there was nothing to say: that is done.
  const isNothing = !dryRun && builds.every(({ counts, isEmpty }) => isEmpty && counts.ready === 0);
  return isHeld && (strict || isNothing) ? 1 : 0;
}

/** Counts what became of products on a channel, and gathers the causes. */
export interface ChannelCounts {
  /** Gives the findings that a person wants to see. */
  takeKept(kept: KeptJudged): readonly Diagnostic[];
  /** The same without its findings, where products that came to the same are counted at once. */
  countKept(kept: KeptJudged): void;
  readonly ready: number;
  readonly held: number;
  readonly leftOut: number;
  /** Findings that `channel.yaml` silences. */
  readonly silenced: number;
  readonly causes: CauseCollector;
  /** Why products are left out by our own decisions. */
  readonly leftOutCauses: CauseCollector;
}

/** What of all findings is counted. */
export interface CountsWishes {
  readonly silences?: readonly Silence[];
  /** Findings that are looked at; others are passed over. */
  readonly isMeant?: (finding: Diagnostic) => boolean;
  /** So many products are named for each cause. */
  readonly examples?: number;
}

/** So much of what products came to is known again. */
const MOST_REPEATED = 50_000;

/** Begins to count. */
export function channelCounts({
  silences = [],
  isMeant = () => true,
  examples,
}: CountsWishes = {}): ChannelCounts {
  const causes = causeCollector(examples);
  const leftOutCauses = causeCollector(examples);
  /** By what products came to. */
  const repeated = new Map<object, TakeAgain>();
  const isOfProduct = silences.some(({ product }) => product !== undefined);
  const counts = { ready: 0, held: 0, leftOut: 0, silenced: 0 };
  const isShown = (finding: Diagnostic, ourCategory: string | undefined): boolean => {
    if (!isMeant(finding)) return false;
    if (!isSilenced(finding, silences, ourCategory)) return true;
    counts.silenced++;
    return false;
  };
  const takeJudged = (
    { kind, findings, category }: Judged,
    tell: (again: TakeAgain | undefined) => void = () => undefined,
  ): readonly Diagnostic[] => {
    if (kind === "left-out") {
      counts.leftOut++;
      tell(leftOutCauses.addAll(findings));
      return [];
    }
    counts[kind === "ready" ? "ready" : "held"]++;
    const shown = findings.filter((finding) => isShown(finding, category));
    tell(causes.addAll(shown));
    return shown;
  };
  return {
    causes,
    leftOutCauses,
    get ready() {
      return counts.ready;
    },
    get held() {
      return counts.held;
    },
    get leftOut() {
      return counts.leftOut;
    },
    get silenced() {
      return counts.silenced;
    },
    takeKept: (kept) => takeJudged(kept.whole()),
    countKept(kept) {
      const known = repeated.get(kept.common);
      if (known !== undefined) {
        known();
        return;
      }
      const before = { ...counts };
      let again: TakeAgain | undefined;
      takeJudged(kept.whole(), (one) => (again = one));
      const taken = again;
      if (taken === undefined || !kept.isOwn || isOfProduct) return;
      const added = ["ready", "held", "leftOut", "silenced"] as const;
      const more = added.map((count) => [count, counts[count] - before[count]] as const);
      if (repeated.size >= MOST_REPEATED) repeated.clear();
      repeated.set(kept.common, () => {
        for (const [count, by] of more) counts[count] += by;
        taken();
      });
    },
  };
}
