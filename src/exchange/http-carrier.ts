/**
 * Carries files to a channel over HTTP, as its definition says: one request a file, then questions for how it stands, its
 * report, the live export. What an answer's status means is `answer-status.ts`'s; what it means for a file is told here.
 */
import { createReadStream } from "node:fs";
import { filledPattern, type ExchangeDefinition } from "../core/channel/exchange-definition.js";
import { fold } from "../core/values/text.js";
import { meaningOf, statusReason } from "./answer-status.js";
import { ExchangeFault, type Carrier, type OutgoingFile, type Progress, type Sending } from "./carrier.js";
import { formBody } from "./form-body.js";
import { jsonOf, textOf, valueAt, waitIn, wordsIn } from "./http-answers.js";
import { httpClient, type AskOptions, type HttpAccount, type HttpAnswer } from "./http-client.js";
import { networkReason } from "./network-reason.js";
import { receivedFile } from "./received-file.js";
import type { Secrets } from "./secrets.js";

/** The same pieces, with how many bytes have gone told on their way. */
const watched = async function* (
  chunks: AsyncIterable<Buffer>,
  told: (bytes: number) => void,
): AsyncGenerator<Buffer> {
  let length = 0;
  for await (const chunk of chunks) {
    told((length += chunk.length));
    yield chunk;
  }
};

/** A file as the request that the channel wants: its bytes alone, or a part of a form. */
function requestFor(
  { send }: ExchangeDefinition,
  file: OutgoingFile,
  told: (bytes: number) => void,
): AskOptions {
  const facts = { ...file.facts, file: file.name };
  const key = send.keyHeader === "" ? {} : { [send.keyHeader]: file.key };
  if (send.as === "put")
    return {
      method: "PUT",
      headers: { "content-type": "application/octet-stream", "content-length": String(file.bytes), ...key },
      body: watched(createReadStream(file.path), told) as never,
    };
  const parts = Object.fromEntries(
    Object.entries(send.parts).map(([name, text]) => [name, filledPattern(text, facts, (fact) => fact)]),
  );
  const form = formBody({ ...file, part: send.filePart }, parts, file.key);
  return {
    method: "POST",
    headers: { "content-type": form.type, "content-length": String(form.length), ...key },
    body: watched(form.bytes(), told) as never,
  };
}

/** What became of a file by what the channel answered to it. */
async function sendingOf(
  answer: HttpAnswer,
  { send }: ExchangeDefinition,
  name: string,
  redirection: string,
  cleaned: (text: string) => string,
): Promise<Sending> {
  const { statusCode: status, headers, body } = answer;
  const text = await textOf(body);
  const reason = statusReason(status, cleaned(wordsIn(text)));
  switch (meaningOf(status)) {
    case "done": {
      if (send.job === "") return { kind: "taken", reference: name };
      const reference = cleaned(valueAt(jsonOf(text), send.job));
      return reference === ""
        ? { kind: "unclear", reason: "the channel's answer does not give the job's reference" }
        : { kind: "taken", reference };
    }
    case "elsewhere":
      return { kind: "not sent", reason: redirection, isSettled: true };
    // A token that is not accepted says nothing of the file.
    case "not accepted":
      return { kind: "not sent", reason, isSettled: true };
    case "later":
      return { kind: "not sent", reason, ...waitIn(headers) };
    case "failed":
      return { kind: "unclear", reason };
    case "refused":
      return { kind: "refused", reason };
  }
}

/** Reaches a channel over HTTP. */
export function httpCarrier(exchange: ExchangeDefinition, account: HttpAccount, secrets: Secrets): Carrier {
  const client = httpClient(exchange, account, secrets);
  const cleaned = (text: string): string => secrets.cleaned(text);
  const kept = async (path: string, to: string): Promise<void> =>
    receivedFile((await client.get(path)).body, to);
  const sent = (to: string, file: OutgoingFile, told: (bytes: number) => void): Promise<HttpAnswer> =>
    client.ask(filledPattern(to, { ...file.facts, file: file.name }), requestFor(exchange, file, told));
  return {
    async send(file, told): Promise<Sending> {
      try {
        const answer = await sent(exchange.send.to, file, told);
        return await sendingOf(answer, exchange, file.name, client.redirection(answer), cleaned);
      } catch (error) {
        const { reason, isBefore, isPassing } = networkReason(error);
        if (isBefore)
          return { kind: "not sent", reason: cleaned(reason), ...(isPassing ? {} : { isSettled: true }) };
        return { kind: "unclear", reason: cleaned(reason) };
      }
    },
    async find({ name, facts }) {
      const { find } = exchange;
      if (find === undefined) return undefined;
      try {
        const answer = await client.json(filledPattern(find.from, { ...facts, file: name }));
        const reference = find.job === "" ? name : cleaned(valueAt(answer, find.job));
        return reference === "" ? undefined : reference;
      } catch (error) {
        if (error instanceof ExchangeFault && error.status === 404) return undefined;
        throw error;
      }
    },
    async trial(file) {
      try {
        const answer = await sent(exchange.trial ?? "", file, () => undefined);
        const { statusCode: status, body } = answer;
        const says = secrets.cleaned(wordsIn(await textOf(body)), 4000);
        const meaning = meaningOf(status);
        if (meaning === "done" || meaning === "refused") return { isGood: meaning === "done", says };
        // Nothing of this speaks of the file.
        if (meaning === "elsewhere") throw new ExchangeFault(client.redirection(answer), undefined);
        throw new ExchangeFault(
          statusReason(status, says),
          meaning === "not accepted" ? undefined : {},
          status,
        );
      } catch (error) {
        throw client.failed(error);
      }
    },
    async progress({ name, reference, facts }): Promise<Progress> {
      const { progress } = exchange;
      if (progress === undefined) return { kind: "answered", state: "" };
      const answer = await client.json(
        filledPattern(progress.from, { ...facts, file: name, job: reference }),
      );
      const state = cleaned(valueAt(answer, progress.state));
      const isAmong = (words: readonly string[]): boolean => words.some((word) => fold(word) === fold(state));
      if (isAmong(progress.done)) return { kind: "answered", state };
      if (isAmong(progress.thrownOut))
        return { kind: "thrown out", state, because: cleaned(valueAt(answer, progress.because)) };
      const percent = Number(valueAt(answer, progress.percent) || Number.NaN);
      return { kind: "reading", state, percent: Number.isFinite(percent) ? percent : undefined };
    },
    report: ({ name, reference, facts }, path) =>
      kept(filledPattern(exchange.report ?? "", { ...facts, file: name, job: reference }), path),
    live: (path) => kept(exchange.live?.from ?? "", path),
    categories: (version, path) => kept(filledPattern(exchange.categories ?? "", { version }), path),
    close: () => client.close(),
  };
}
