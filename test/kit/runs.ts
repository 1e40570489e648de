/**
 * How often a property, a model or a kill is tried: few times in `npm test`, many by `npm run test:long` (which sets
 * TEST_LONG), or as often as TEST_RUNS says. No name of the program's own: it warns of those that it does not know.
 */
export const isLong = process.env["TEST_LONG"] === "yes";

export const runs = (few: number, many: number): number => {
  const wanted = Number(process.env["TEST_RUNS"]);
  return wanted > 0 ? wanted : isLong ? many : few;
};

/** Which of a command's steps it is killed at: one in so many, or each in a long run. */
export const oneIn = (many: number, first: number): ((step: number) => boolean) =>
  isLong ? () => true : (step) => step % many === first;

/** How large a thing is that must not burst us: an eighth in `npm test`, where what grows by squares shows as well. */
export const sized = (count: number): number => (isLong ? count : count / 8);
