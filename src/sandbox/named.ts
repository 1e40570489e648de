// Names come from files of any origin: what is not the object's own is not there.

export const has = (object: object, name: string): boolean => Object.hasOwn(object, name);

/** What an object has of its own under a name. */
export const at = <T>(object: Readonly<Record<string, T>>, name: string): T | undefined =>
  // eslint-disable-next-line house/data-names -- here it is made sure
  Object.hasOwn(object, name) ? object[name] : undefined;

/** Gives an object something of its own under a name, whatever the name is. */
export const put = <T>(object: Record<string, T>, name: string, value: T): void =>
  void Object.defineProperty(object, name, { value, enumerable: true, configurable: true, writable: true });
