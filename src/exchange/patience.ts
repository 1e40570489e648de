/** Waiting between tries, and asking again what does no harm when it is asked twice. */
import { setTimeout as pause } from "node:timers/promises";
import type { Repeating } from "../core/channel/exchange-definition.js";
import type { Io } from "../io/io.js";
import { ExchangeFault, type Carrier, type OutgoingFile, type Sending } from "./carrier.js";

/** How long is waited between tries. */
export interface Patience {
  /** Tries in all. */
  readonly tries: number;
  /** Milliseconds before the second; each further wait is twice as long. */
  readonly first: number;
  /** The longest wait, in milliseconds, whatever the channel wishes. */
  readonly longest: number;
}

/** The patience of this run: seconds, unless the environment says otherwise. */
export function patienceOf({ environment }: Io): Patience {
  const first = Number(environment["LEXICANT_FIRST_WAIT_MS"] ?? 800);
  return { tries: 6, first: Number.isFinite(first) ? first : 800, longest: 120_000 };
}

/** Between half and all of twice the wait before, so that many who wait do not all come back at once. */
function waitBefore(tried: number, { first, longest }: Patience, wished: number | undefined): number {
  const own = first * 2 ** (tried - 1) * (0.5 + Math.random() / 2);
  return Math.min(longest, Math.max(own, (wished ?? 0) * 1000));
}

/** Asks again what does no harm when it is asked twice, as long as another try may succeed. */
export async function askPatiently<T>(ask: () => Promise<T>, patience: Patience): Promise<T> {
  for (let tried = 1; ; tried++)
    try {
      return await ask();
    } catch (error) {
      if (!(error instanceof ExchangeFault) || error.again === undefined || tried >= patience.tries)
        throw error;
      await pause(waitBefore(tried, patience, error.again.wait));
    }
}

/** Who follows bytes and waits. */
export interface SendWatch {
  bytes(sent: number): void;
  waits(reason: string, milliseconds: number): void;
}

/**
 * Sends a file, and again where it did not arrive. What may have arrived is sent again only where that is harmless, a key
 * tells the channel that it is the same, or the channel does not have it when it is asked.
 */
export async function sendPatiently(
  carrier: Carrier,
  file: OutgoingFile,
  again: Repeating,
  patience: Patience,
  watch: SendWatch,
  /** Whether an earlier run may have sent it. */
  isUnclear = false,
): Promise<Sending> {
  let last: Sending = { kind: "unclear", reason: "an earlier run ended while it was sent" };
  let mayHaveArrived = isUnclear;
  for (let tried = 1; ; tried++) {
    if (mayHaveArrived && again === "find") {
      const found = await askPatiently(() => carrier.find(file), patience);
      if (found !== undefined) return { kind: "taken", reference: found };
    } else if (mayHaveArrived && again === "never") return last;
    last = await carrier.send(file, (bytes) => watch.bytes(bytes));
    if (last.kind === "taken" || last.kind === "refused") {
      // A channel that refuses the name may refuse it because this very file came before.
      if (last.kind === "refused" && mayHaveArrived && again === "find") {
        const found = await askPatiently(() => carrier.find(file), patience);
        if (found !== undefined) return { kind: "taken", reference: found };
      }
      return last;
    }
    if (last.kind === "unclear") mayHaveArrived = true;
    if (last.kind === "not sent" && last.isSettled === true) return last;
    if (tried >= patience.tries || (last.kind === "unclear" && again === "never")) return last;
    const wait = waitBefore(tried, patience, last.kind === "not sent" ? last.wait : undefined);
    watch.waits(last.reason, wait);
    await pause(wait);
  }
}
