import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { ExitCode } from "../command-file.js";
import type { Outcome } from "../../core/listing/listing.js";

/** 0 all ready, 1 products are held, 3 a check itself failed: what it would have said is not known. */
export const exitFor = (runs: readonly ChannelCounts[]): ExitCode => {
  if (runs.some(({ causes }) => causes.has("check-crashed"))) return 3;
  return runs.some(({ held }) => held > 0) ? 1 : 0;
};

/** Counts what became of products on a channel, and gathers the causes. */
export interface ChannelCounts {
  take(outcome: Outcome): readonly Diagnostic[];
  readonly ready: number;
  readonly held: number;
  readonly leftOut: number;
  readonly causes: CauseCollector;
  /** Why products are left out by our own decisions. */
  readonly leftOutCauses: CauseCollector;
}

export const channelCounts = (): ChannelCounts => {
  const causes = causeCollector();
  const leftOutCauses = causeCollector();
  const counts = { ready: 0, held: 0, leftOut: 0 };
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
    take(outcome) {
      if (outcome.kind === "left-out") {
        counts.leftOut++;
        leftOutCauses.add(outcome.because);
        return [];
      }
      counts[outcome.kind]++;
      const findings = outcome.kind === "ready" ? outcome.findings : outcome.because;
      findings.forEach(causes.add);
      return findings;
    },
  };
};
