import { cannot, type Cannot } from "./trouble.js";

/** No text of a listing is longer, in characters: what grows beyond it would only fill memory. */
export const TEXT_LIMIT = 1_000_000;

/** That a function's text would grow beyond bounds. */
export function tooLong(name: string): Cannot {
  return cannot({
    trouble: "wrong-argument",
    name,
    reason: `gives a text of more than ${TEXT_LIMIT.toLocaleString("en")} characters`,
  });
}
