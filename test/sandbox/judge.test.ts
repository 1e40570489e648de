import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { channelData } from "../../src/sandbox/channel-data.js";
import { freshState, PlayedChannel, type Verdict } from "../../src/sandbox/played-channel.js";
import { liveText, reportText } from "../../src/sandbox/answers.js";
import { demoShop } from "../kit/demo-shop.js";
import { lexicant, projectRoot } from "../kit/run.js";

const played = (channel: string): PlayedChannel => {
  const data = channelData(join(projectRoot, "definitions", channel));
  if (data === undefined) throw new Error(`${channel} takes no files`);
  return new PlayedChannel(data, freshState(), 0);
};

const take = async (
  channel: PlayedChannel,
  name: string,
  bytes: Buffer,
  purpose = "full",
): Promise<readonly Verdict[]> => {
  const action = channel.data.purposes.find((one) => one.purpose === purpose)?.action ?? "";
  const { number } = await channel.arrive({ name, bytes, key: "", action }, 0);
  channel.advance(1);
  const job = channel.job(number);
  expect(job?.because).toBe("");
  return job?.verdicts ?? [];
};

const shop = demoShop();
lexicant(shop, ["build"]);

const filesOf = (channel: PlayedChannel): readonly string[] => {
  const { channel: name, layout } = channel.data;
  const ending = layout.file.slice(layout.file.lastIndexOf("."));
  return readdirSync(join(shop, "out", name)).filter((file) => file.endsWith(ending));
};

const quay = (...objects: readonly object[]): Buffer =>
  Buffer.from(objects.map((one) => `${JSON.stringify(one)}\n`).join(""));

const post = {
  post_no: "P-1",
  corner: "Bees > Bee clothes",
  said_short: "Bee suit, white, M",
  said_long: "Three layers of mesh.",
  page: "https://brindlecote.example/p-1",
  photo: "https://brindlecote.example/p-1.jpg",
  costs: "89.00 GBP",
  at_hand: "ready to send",
  shape: "new",
  parcel_g: "900 g",
};

describe("the sandbox, which judges by a definition's data with code of its own", () => {
  it.each(["lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterquay"])(
    "when %s gets what a build made, then it takes every row",
    async (name) => {
      const channel = played(name);
      let rows = 0;
      for (const file of filesOf(channel)) {
        const verdicts = await take(channel, file, readFileSync(join(shop, "out", name, file)));
        expect(verdicts.filter(({ isAccepted }) => !isAccepted)).toEqual([]);
        rows += verdicts.length;
      }
      expect(rows).toBeGreaterThan(200);
      expect(Object.keys(channel.state.shown)).toHaveLength(rows);
    },
  );

  it.each([
    ["a text that is too long", { said_short: "x".repeat(59) }, "102", "said_short"],
    ["a value that is on no list", { at_hand: "perhaps" }, "103", "at_hand"],
    ["a required field that is blank", { said_long: undefined }, "101", "said_long"],
    ["a place that is none of its own", { corner: "Bees > Nowhere" }, "106", "corner"],
    ["a number over its limit", { parcel_g: "30001 g" }, "105", "parcel_g"],
    ["a currency that it does not trade in", { costs: "10.00 SEK" }, "109", "costs"],
    [
      "nothing that its category alone asks for",
      { corner: "Home > Rugs, throws & linen" },
      "101",
      "made_from",
    ],
    ["a reference that is not written as it should be", { post_no: "P 1" }, "104", "post_no"],
  ])("when a row has %s, then it is refused for just that", async (_, fault, code, field) => {
    const channel = played("chatterquay");
    const [good, bad] = await take(channel, "posts.jsonl", quay(post, { ...post, post_no: "P-2", ...fault }));
    expect(good).toMatchObject({ isAccepted: true });
    expect(bad).toMatchObject({ isAccepted: false, code, field });
    expect(Object.keys(channel.state.shown)).toEqual(["P-1"]);
  });

  it("when a file of each purpose comes, then it does what that purpose says, and no more", async () => {
    const channel = played("chatterquay");
    const offer = quay({ post_no: "P-1", costs: "79.00 GBP" });
    expect((await take(channel, "a", offer, "offer"))[0]).toMatchObject({ code: "108" });
    await take(channel, "b", quay(post));
    expect((await take(channel, "c", offer, "offer"))[0]).toMatchObject({ isAccepted: true });
    expect(channel.state.shown["P-1"]?.cells).toMatchObject({
      costs: "79.00 GBP",
      said_short: "Bee suit, white, M",
    });
    await take(channel, "d", quay({ ...post, said_long: "Other words." }));
    expect(channel.state.shown["P-1"]?.cells).toMatchObject({
      costs: "89.00 GBP",
      said_long: "Other words.",
    });
    expect((await take(channel, "e", quay(post, post)))[1]).toMatchObject({ code: "110" });
    await take(channel, "f", quay({ post_no: "P-1" }), "withdraw");
    expect(channel.state.shown).toEqual({});
  });

  it("when a file is none of its own, then nothing of it is taken, with the reason", async () => {
    const channel = played("gavelstead");
    const { number } = await channel.arrive(
      { name: "x.xml", bytes: Buffer.from("<hall><lot>"), key: "", action: "" },
      0,
    );
    channel.advance(1);
    expect(channel.job(number)).toMatchObject({ isUnreadable: true, isDone: true });
    expect(channel.job(number)?.because).toContain("XML");
  });

  it("when it reports and shows, then in each channel's own layout, names of the language and all", async () => {
    const channel = played("chatterquay");
    const verdicts = await take(
      channel,
      "b",
      quay({ ...post, post_no: "constructor" }, { ...post, post_no: "__proto__" }),
    );
    expect(verdicts.map(({ reference, isAccepted }) => [reference, isAccepted])).toEqual([
      ["constructor", true],
      ["__proto__", false],
    ]);
    const { results } = channel.data;
    if (results === undefined) throw new Error("Chatterquay reports");
    expect(JSON.parse(reportText(verdicts, results, channel.data))).toMatchObject([
      { post: "constructor", went: "up" },
      { post: "__proto__", went: "turned down" },
    ]);
    const [line = ""] = liveText(Object.values(channel.state.shown), channel.data).split("\n");
    expect(JSON.parse(line)).toMatchObject({ post_no: "constructor", post_id: "CH0000001" });
  });
});
