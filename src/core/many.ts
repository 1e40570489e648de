/** Adds items to a list, however many they are: spreading a long list into a call overflows the stack. */
export function addAll<T>(list: T[], items: Iterable<T>): void {
  for (const item of items) list.push(item);
}

/** The greatest of numbers, or `least` where none is greater. */
export function greatest(numbers: Iterable<number>, least = -Infinity): number {
  let found = least;
  for (const number of numbers) if (number > found) found = number;
  return found;
}
