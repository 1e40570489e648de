/**
 * A function of an owner and a key that is worked out once for each pair, for as long as the owner is there. It is for
 * what a definition comes to: plans, books and checks ask the same again and again, and a definition never changes.
 */
export function onceFor<Owner extends object, Key, Value>(
  make: (owner: Owner, key: Key) => Value,
): (owner: Owner, key: Key) => Value {
  const known = new WeakMap<Owner, Map<Key, Value>>();
  return (owner, key) => {
    let own = known.get(owner);
    if (own === undefined) known.set(owner, (own = new Map<Key, Value>()));
    const before = own.get(key);
    if (before !== undefined) return before;
    const made = make(owner, key);
    own.set(key, made);
    return made;
  };
}
