/** A way to a channel: files laid into folders, and taken from them. */
import { filledPattern, type ExchangeDefinition } from "../core/channel/exchange-definition.js";
import { ExchangeFault, type Carrier, type SentFile } from "./carrier.js";
import { NameTaken, type FileShelf } from "./file-shelf.js";
import { receivedFile } from "./received-file.js";
import type { Secrets } from "./secrets.js";

const asItIs = (text: string): string => text.replace(/[/\\]/g, "_");

/** Reaches a channel by files in folders: what lies in one is taken, moved on, and answered by a file in another. */
export function dropCarrier(exchange: ExchangeDefinition, shelf: FileShelf, secrets: Secrets): Carrier {
  const at = (pattern: string, { name, facts }: Pick<SentFile, "name" | "facts">): string =>
    filledPattern(pattern, { ...facts, file: name, job: name }, asItIs);
  const failed = (error: unknown): ExchangeFault => {
    if (error instanceof ExchangeFault) return error;
    const { reason, isPassing } = shelf.reasonOf(error);
    return new ExchangeFault(secrets.cleaned(reason), isPassing ? {} : undefined);
  };
  const guarded = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      throw failed(error);
    }
  };
  const kept = (path: string, to: string): Promise<void> =>
    guarded(async () => {
      if (!(await shelf.has(path))) throw new ExchangeFault(`there is no ${path} yet`, {});
      await receivedFile(await shelf.read(path), to);
    });
  return {
    async send(file, told) {
      try {
        await shelf.put(file.path, at(exchange.send.to, file), told);
        return { kind: "taken", reference: file.name };
      } catch (error) {
        const { reason, isBefore, isPassing } = shelf.reasonOf(error);
        const told = secrets.cleaned(reason);
        if (!isBefore) return { kind: "unclear", reason: told };
        if (error instanceof NameTaken) return { kind: "refused", reason: told };
        return { kind: "not sent", reason: told, ...(isPassing ? {} : { isSettled: true }) };
      }
    },
    // A file that was dropped lies where it came, or where the channel moved it, or was answered already.
    find: (file) =>
      guarded(async () => {
        for (const pattern of [exchange.send.to, exchange.find?.from, exchange.report])
          if (pattern !== undefined && (await shelf.has(at(pattern, file)))) return file.name;
        return undefined;
      }),
    trial: () =>
      Promise.reject(new ExchangeFault("this channel does not look at files without effect", undefined)),
    progress: (file) =>
      guarded(async () => {
        if (exchange.report === undefined || (await shelf.has(at(exchange.report, file))))
          return { kind: "answered", state: "answered" };
        const isTaken = exchange.find !== undefined && (await shelf.has(at(exchange.find.from, file)));
        return { kind: "reading", state: isTaken ? "taken" : "waiting", percent: undefined };
      }),
    report: (file, path) => kept(at(exchange.report ?? "", file), path),
    live: (path) => kept(exchange.live?.from ?? "", path),
    categories: (version, path) => kept(filledPattern(exchange.categories ?? "", { version }, asItIs), path),
    close: () => shelf.close(),
  };
}
