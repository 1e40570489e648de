/** Names for expressions: small letters, digits and underscores, each once. */
export function codeMaker(): (name: string) => string {
  const used = new Set<string>();
  return (name) => {
    const plain = name
      .replace(/ß/g, "ss")
      .replace(/([a-z\d])([A-Z])/g, "$1_$2")
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .replace(/^_+|_+$/g, "")
      .slice(0, 48);
    const base = /^[a-z]/.test(plain) ? plain : plain === "" ? "column" : `f_${plain}`;
    let code = reserved.has(base) ? `${base}_field` : base;
    for (let count = 2; used.has(code); count++) code = `${base}_${count}`;
    used.add(code);
    return code;
  };
}

/** Words that expressions know as their own. */
const reserved = new Set("yes no and or not if then else is given blank in of under one".split(" "));
