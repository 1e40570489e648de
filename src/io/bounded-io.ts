/**
 * Worlds that are narrower than the one they are made of: one whose reader may go away, one that is shown page by page.
 */
import type { Io } from "./io.js";
import { OutputLost } from "./output-lost.js";

/** The same world, in which an answer that nobody reads any more never breaks off the work: it is remembered, and told at the end. */
export function workingIo(io: Io): { readonly io: Io; lost(): OutputLost | undefined } {
  let lost: OutputLost | undefined;
  return {
    io: {
      ...io,
      out(text) {
        if (lost !== undefined) return;
        try {
          io.out(text);
        } catch (error) {
          if (!(error instanceof OutputLost)) throw error;
          lost = error;
        }
      },
    },
    lost: () => lost,
  };
}

/** The same world, in which what is said is kept until the end and then shown page by page; a message that follows it comes behind. */
export function pagedIo(io: Io, page: (text: string) => void): { readonly io: Io; end(): void } {
  let [text, behind] = ["", ""];
  return {
    io: {
      ...io,
      out: (more) => void (text += more),
      err(message) {
        if (text === "") io.err(message);
        else behind += message;
      },
    },
    end() {
      if (text !== "") page(text);
      if (behind !== "") io.err(behind);
      [text, behind] = ["", ""];
    },
  };
}
