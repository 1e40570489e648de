type Method = (...args: readonly unknown[]) => unknown;

const isGenerator = (value: unknown): value is AsyncGenerator =>
  typeof value === "object" && value !== null && Symbol.asyncIterator in value;

async function* telling(generator: AsyncGenerator, told: (error: unknown) => unknown) {
  try {
    yield* generator;
  } catch (error) {
    throw told(error);
  }
}

/**
 * The same object, each of whose methods tells the database's faults as ours, whenever they come: at the call, with the
 * promise, or between two batches.
 */
export function tellingFaults<T extends object>(target: T, told: (error: unknown) => unknown): T {
  const guarded = Object.entries(target).map(([name, method]): readonly [string, unknown] => {
    if (typeof method !== "function") return [name, method];
    const call: Method = (...args) => {
      try {
        const result: unknown = (method as Method)(...args);
        if (isGenerator(result)) return telling(result, told);
        if (!(result instanceof Promise)) return result;
        return result.catch((error: unknown) => {
          throw told(error);
        });
      } catch (error) {
        throw told(error);
      }
    };
    return [name, call];
  });
  return Object.fromEntries(guarded) as T;
}
