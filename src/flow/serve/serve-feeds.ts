/** Publishes feeds and keeps them fresh: by the clock, by what changes, with what went wrong told. */
import { Cron } from "croner";
import { watch } from "chokidar";
import { join } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { feedServer, isSecret, type FeedHouse, type FeedServer } from "../../exchange/feed-server.js";
import { secretFrom } from "../../exchange/secrets.js";
import type { Io } from "../../io/io.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { sentence } from "../../workspace/wording.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { Logger } from "../log.js";
import { workMark } from "../parts/work-mark.js";
import { tellSomeone } from "../tell-someone.js";
import { storeOf } from "../workspace-store.js";
import { publish, publishedOf, secretPathOf, type Published } from "./published.js";
import { rebuild } from "../run-beside.js";

/** A rebuild with less than this share of the listings of before is not published, in percent. */
const LEAST_SHARE = 70;
const CHANGE_MILLISECONDS = 2000;
const WATCH_MILLISECONDS = 30_000;
const HOUR = 3_600_000;
const PATIENCE_MILLISECONDS = 5000;

/** One feed while it is served. */
interface Feed {
  readonly channel: WorkspaceChannel;
  readonly name: string;
  /** What stands before its files' names in the address. */
  readonly place: string;
  readonly token: string | undefined;
  published: Published | undefined;
  /** Why the last rebuild was not published; "". */
  trouble: string;
  /** Milliseconds since 1970. */
  lastFetched: number;
  wasTold: boolean;
  mark: string;
  running: Promise<void> | undefined;
  again: boolean;
}

/** Where feeds are served. */
export interface ServeWishes {
  readonly host: string;
  readonly port: number;
}

/** Feeds that are served. */
export interface Serving {
  readonly port: number;
  close(): Promise<void>;
}

const wrongSetting = (channel: WorkspaceChannel, key: string, reason: string): Refusal =>
  new Refusal([
    diagnostic(
      "wrong-setting",
      { key: `serve.${key}`, reason },
      { place: { file: channel.setup.files.policy } },
    ),
  ]);

/** The addresses of channels' feeds, below the server's own. */
export async function feedPlaces(
  workspace: Workspace,
  channels: readonly WorkspaceChannel[],
): Promise<ReadonlyMap<string, string>> {
  const places = new Map<string, string>();
  for (const { setup, serving } of channels)
    places.set(
      setup.channel,
      serving.secret_path === false ? setup.channel : await secretPathOf(workspace, setup.channel),
    );
  return places;
}

/** What all that a feed is made of is like now. */
async function markOf(workspace: Workspace, channel: WorkspaceChannel): Promise<string> {
  const store = await storeOf(workspace, { onlyReads: true });
  try {
    return `${await store.hold()} ${workMark(workspace, [channel], {})}`;
  } finally {
    await store.close();
  }
}

/** Rebuilds a feed, and publishes it where it is whole and not suspiciously small. */
async function refresh(feed: Feed, workspace: Workspace, log: Logger, io: Io, why: string): Promise<void> {
  const { name, channel } = feed;
  const least = channel.serving.least_share ?? LEAST_SHARE;
  log.info({ channel: name, why }, "rebuild begins");
  feed.mark = await markOf(workspace, channel).catch(() => "");
  const built = await rebuild(workspace, name, [], io);
  const before = feed.published?.listings ?? 0;
  const reason =
    built.kind === "failed"
      ? built.reason
      : built.files.length === 0 || built.listings === 0
        ? "no listing is ready"
        : built.listings * 100 < before * least
          ? `it has ${built.listings} listings and the one before ${before}: under ${least}% (serve.least_share)`
          : "";
  if (reason !== "" || built.kind === "failed") {
    feed.trouble = reason;
    const says = sentence(diagnostic("feed-kept", { channel: name, reason }));
    log.error({ channel: name }, says);
    await tellSomeone(
      workspace,
      {
        occasion: "rebuild-failed",
        channel: name,
        says,
        counts: { before },
        causes: [],
        report: undefined,
      },
      io,
    );
    return;
  }
  await publish(workspace, name, built, io.now().toISOString());
  feed.published = await publishedOf(workspace, name);
  feed.trouble = "";
  log.info({ channel: name, listings: built.listings, files: built.files }, "published");
}

/** One rebuild of a feed at a time; what comes meanwhile is one more behind it. */
function request(feed: Feed, workspace: Workspace, log: Logger, io: Io, why: string): Promise<void> {
  if (feed.running !== undefined) {
    feed.again = true;
    return feed.running;
  }
  const run = async (): Promise<void> => {
    const isWanted = (): boolean => feed.again;
    do {
      feed.again = false;
      await refresh(feed, workspace, log, io, why).catch((error: unknown) => {
        feed.trouble = (error as Error).message;
        const { name: channel, trouble: reason } = feed;
        log.error({ channel }, sentence(diagnostic("feed-kept", { channel, reason })));
      });
    } while (isWanted());
    feed.running = undefined;
  };
  return (feed.running = run());
}

const houseOf = (feeds: readonly Feed[], log: Logger, io: Io): FeedHouse => ({
  find(path, authorization) {
    const [, place = "", name = "", ...more] = path.split("/").map((part) => {
      try {
        return decodeURIComponent(part);
      } catch {
        return "";
      }
    });
    if (more.length > 0) return undefined;
    for (const feed of feeds) {
      if (!isSecret(place, feed.place)) continue;
      if (feed.token !== undefined && !isSecret(authorization ?? "", `Bearer ${feed.token}`))
        return undefined;
      const file = feed.published?.files.get(name);
      return file === undefined ? undefined : { channel: feed.name, name, file };
    }
    return undefined;
  },
  health() {
    const body = feeds.map(({ name, published, trouble, lastFetched, running }) => ({
      channel: name,
      isPublished: published !== undefined,
      listings: published?.listings ?? 0,
      at: published?.at ?? null,
      isRebuilding: running !== undefined,
      trouble,
      lastFetched: lastFetched === 0 ? null : new Date(lastFetched).toISOString(),
    }));
    return {
      isWell: body.every(({ isPublished, trouble }) => isPublished && trouble === ""),
      body: { feeds: body },
    };
  },
  answered(access) {
    const feed = feeds.find(({ name }) => name === access.channel);
    if (feed !== undefined && (access.status === 200 || access.status === 304)) {
      feed.lastFetched = io.now().getTime();
      feed.wasTold = false;
    }
    log.info({ ...access }, "answered");
  },
});

/** Tells once of a feed that nobody fetched when somebody should have. */
function watchFetching(
  feeds: readonly Feed[],
  workspace: Workspace,
  log: Logger,
  io: Io,
  begun: number,
): () => void {
  const look = (): void => {
    for (const feed of feeds) {
      const hours = feed.channel.serving.fetched_within;
      if (hours === undefined || feed.wasTold) continue;
      const since = Math.max(begun, feed.lastFetched);
      if (io.now().getTime() - since < hours * HOUR) continue;
      feed.wasTold = true;
      const says = `nobody has fetched the feed for ${hours} hours`;
      log.warn({ channel: feed.name, hours }, says);
      void tellSomeone(
        workspace,
        {
          occasion: "feed-not-fetched",
          channel: feed.name,
          says,
          counts: { hours },
          causes: [],
          report: undefined,
        },
        io,
      );
    }
  };
  const smallest = feeds.reduce(
    (least, { channel }) => Math.min(least, (channel.serving.fetched_within ?? Infinity) * HOUR),
    Infinity,
  );
  const timer = setInterval(look, Math.max(100, Math.min(WATCH_MILLISECONDS, smallest / 4)));
  return () => clearInterval(timer);
}

/** Publishes channels' feeds and keeps them fresh, until it is closed. */
export async function serveFeeds(
  workspace: Workspace,
  channels: readonly WorkspaceChannel[],
  { host, port }: ServeWishes,
  log: Logger,
  io: Io,
): Promise<Serving> {
  const places = await feedPlaces(workspace, channels);
  const feeds: Feed[] = [];
  for (const channel of channels) {
    const { serving, setup } = channel;
    const { token_from: variable } = serving;
    feeds.push({
      channel,
      name: setup.channel,
      place: places.get(setup.channel) ?? setup.channel,
      token:
        variable === undefined ? undefined : secretFrom(variable, "serve.token_from", setup.files.policy, io),
      published: await publishedOf(workspace, setup.channel),
      trouble: "",
      lastFetched: 0,
      wasTold: false,
      mark: "",
      running: undefined,
      again: false,
    });
  }
  const clocks = feeds.flatMap((feed): readonly Cron[] => {
    const { rebuild: pattern, zone } = feed.channel.serving;
    if (pattern === undefined) return [];
    try {
      return [
        new Cron(
          pattern,
          { ...(zone === undefined ? {} : { timezone: zone }), protect: true, unref: true },
          () => request(feed, workspace, log, io, "its time has come"),
        ),
      ];
    } catch (error) {
      throw wrongSetting(feed.channel, "rebuild", `is no time of a clock: ${(error as Error).message}`);
    }
  });
  const server: FeedServer = await feedServer(houseOf(feeds, log, io), host, port);
  // What was never published comes first; what stands is served meanwhile.
  for (const feed of feeds)
    if (feed.published === undefined) void request(feed, workspace, log, io, "nothing was published yet");
  const watched = feeds.filter(({ channel }) => channel.serving.on_change === true);
  const stopWatching = watchChanges(watched, workspace, log, io);
  const stopFetching = watchFetching(feeds, workspace, log, io, io.now().getTime());
  return {
    port: server.port,
    async close() {
      for (const clock of clocks) clock.stop();
      stopFetching();
      await stopWatching();
      await server.close(PATIENCE_MILLISECONDS);
      // A build that runs ends by itself, and is whole: it is waited for.
      for (const { running } of feeds) await running;
    },
  };
}

/** Rebuilds feeds whose catalogue, decisions or definition changed. */
function watchChanges(
  feeds: readonly Feed[],
  workspace: Workspace,
  log: Logger,
  io: Io,
): () => Promise<void> {
  if (feeds.length === 0) return () => Promise.resolve();
  let timer: NodeJS.Timeout | undefined;
  const look = async (): Promise<void> => {
    for (const feed of feeds) {
      const mark = await markOf(workspace, feed.channel).catch(() => feed.mark);
      // A build writes to the store as well: only what it is made of counts.
      if (mark !== feed.mark && feed.running === undefined)
        await request(feed, workspace, log, io, "something changed");
    }
  };
  void (async () => {
    for (const feed of feeds)
      if (feed.mark === "" && feed.running === undefined)
        feed.mark = await markOf(workspace, feed.channel).catch(() => "");
  })();
  const watcher = watch(
    [
      workspace.path(".lexicant"),
      workspace.path("channels"),
      workspace.path("tables"),
      workspace.path("definitions"),
    ],
    {
      ignoreInitial: true,
      depth: 3,
      ignored: (path) => path.startsWith(join(workspace.path(".lexicant"), "served")),
    },
  );
  watcher.on("all", () => {
    clearTimeout(timer);
    timer = setTimeout(() => void look(), CHANGE_MILLISECONDS);
  });
  return async () => {
    clearTimeout(timer);
    await watcher.close();
  };
}
