import type { Readable } from "node:stream";

/** A place of files, here or on another host; paths count from the account's folder. */
export interface FileShelf {
  /** Puts a file under a name where nobody sees it before it is whole. @throws where the name is taken */
  put(from: string, to: string, told: (bytes: number) => void): Promise<void>;
  has(path: string): Promise<boolean>;
  read(path: string): Promise<Readable>;
  /** What an error of the shelf means. */
  reasonOf(error: unknown): ShelfReason;
  close(): Promise<void>;
}

/** Why a shelf did not take or give a file. */
export interface ShelfReason {
  readonly reason: string;
  /** Whether the file certainly did not come under its name. */
  readonly isBefore: boolean;
  readonly isPassing: boolean;
}

/** A name that a file lies under already. */
export class NameTaken extends Error {}
