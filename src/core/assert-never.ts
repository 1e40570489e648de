/** Ends a switch over a union: the compiler refuses the call while a case is missing. */
export function assertNever(value: never): never {
  throw new Error(`unhandled case: ${JSON.stringify(value)}`);
}
