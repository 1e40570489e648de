import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { ExchangeDefinition } from "../../src/core/channel/exchange-definition.js";
import { ExchangeFault, type Carrier, type OutgoingFile } from "../../src/exchange/carrier.js";
import { httpCarrier } from "../../src/exchange/http-carrier.js";
import { secretsOf } from "../../src/exchange/secrets.js";
import { temporaryFolder, write } from "../kit/run.js";

let status = 200;
const server = createServer((request, response) => {
  request.resume().on("end", () => {
    response.writeHead(status, status >= 300 && status < 400 ? { location: "https://x.example/" } : {});
    response.end(JSON.stringify({ receipt: "77", words: "as it says" }));
  });
});
let carrier: Carrier;
beforeAll(async () => {
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const { port } = server.address() as AddressInfo;
  const exchange = {
    send: { as: "put", to: "files/{file}", job: "receipt", parts: {}, filePart: "", keyHeader: "" },
    trial: "look/{file}",
    progress: { from: "jobs/{job}", state: "words", percent: "", because: "", done: [], thrownOut: [] },
    // The rest of a definition is of no concern to a status.
  } as unknown as ExchangeDefinition;
  const address = new URL(`http://127.0.0.1:${port}`);
  const account = { address, token: undefined, certificate: undefined, allowsPrivate: true };
  carrier = httpCarrier(exchange, account, secretsOf());
});
afterAll(async () => {
  await carrier.close();
  server.close();
});

const file = (): OutgoingFile => {
  const path = write(temporaryFolder(), "goods.csv", "a,b\n");
  return { name: "goods.csv", path, bytes: 4, key: "k-1", facts: {} } as unknown as OutgoingFile;
};

/** What a trial, or a question, came to: an answer, or a fault that may pass or not. */
const outcomeOf = async (asked: Promise<unknown>): Promise<unknown> => {
  try {
    return await asked;
  } catch (error) {
    expect(error).toBeInstanceOf(ExchangeFault);
    return (error as ExchangeFault).again === undefined ? "settled fault" : "passing fault";
  }
};

describe("what a status means, whoever asks", () => {
  it.each([
    [200, "taken", true, "reading"],
    [204, "unclear", true, "passing fault"],
    [302, "not sent", "settled fault", "settled fault"],
    [401, "not sent", "settled fault", "settled fault"],
    [403, "not sent", "settled fault", "settled fault"],
    [404, "refused", false, "settled fault"],
    [408, "not sent", "passing fault", "passing fault"],
    [422, "refused", false, "settled fault"],
    [429, "not sent", "passing fault", "passing fault"],
    [500, "unclear", "passing fault", "passing fault"],
    [503, "not sent", "passing fault", "passing fault"],
  ])(
    "when it is %i, then a sending is %s, a trial %s, a question %s",
    async (own, sending, trial, question) => {
      status = own;
      expect((await carrier.send(file(), () => undefined)).kind).toBe(sending);
      const tried = await outcomeOf(carrier.trial(file()));
      expect(typeof tried === "object" ? (tried as { isGood: boolean }).isGood : tried).toBe(trial);
      const asked = await outcomeOf(
        carrier.progress({ name: "goods.csv", reference: "77", facts: {} } as never),
      );
      expect(typeof asked === "object" ? (asked as { kind: string }).kind : asked).toBe(question);
    },
  );
});
