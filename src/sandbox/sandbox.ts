/** Played channels together, and the one file in which they remember. */
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { channelData } from "./channel-data.js";
import { freshState, PlayedChannel, type ChannelState } from "./played-channel.js";
import { at } from "./named.js";

/** What a sandbox plays, and where it remembers. */
export interface SandboxWish {
  /** Folders of definitions by channel name. */
  readonly definitions: ReadonlyMap<string, string>;
  /** Channels that are played; all that take files, where none is named. */
  readonly channels: readonly string[];
  readonly stateFile: string;
  /** Milliseconds that a file is worked at. */
  readonly pace: number;
  readonly token: string;
}

type KeptStates = Readonly<Record<string, ChannelState>>;

/** Played channels that remember, in one file, what they were sent. */
export class Sandbox {
  readonly channels: ReadonlyMap<string, PlayedChannel>;

  constructor(readonly wish: SandboxWish) {
    const kept = existsSync(wish.stateFile)
      ? (JSON.parse(readFileSync(wish.stateFile, "utf8")) as KeptStates)
      : {};
    const played = new Map<string, PlayedChannel>();
    for (const [name, folder] of wish.definitions) {
      if (wish.channels.length > 0 && !wish.channels.includes(name)) continue;
      const data = channelData(folder);
      if (data !== undefined)
        played.set(name, new PlayedChannel(data, { ...freshState(), ...at(kept, name) }, wish.pace));
    }
    this.channels = played;
  }

  /** Does what is due on every channel. */
  advance(): void {
    const now = Date.now();
    const moved = [...this.channels.values()].filter((channel) => channel.advance(now));
    if (moved.length > 0) this.save();
  }

  /** What every channel keeps is written whole, or stays as it was. */
  save(): void {
    const { stateFile } = this.wish;
    const kept = Object.fromEntries([...this.channels].map(([name, { state }]) => [name, state]));
    mkdirSync(dirname(stateFile), { recursive: true });
    writeFileSync(`${stateFile}.coming`, JSON.stringify(kept));
    renameSync(`${stateFile}.coming`, stateFile);
  }
}

/** The folders of definitions below some others, by name; the first of a name counts. */
export function definitionFolders(roots: readonly string[]): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const root of roots)
    for (const name of existsSync(root) ? readdirSync(root).sort() : [])
      if (!found.has(name) && existsSync(join(root, name, "definition.yaml")))
        found.set(name, join(root, name));
  return found;
}
