/** For options that may be given several times: each value joins those before it. */
export const collect = (value: string, earlier: readonly string[] = []): readonly string[] => [
  ...earlier,
  value,
];
