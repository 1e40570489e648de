import { CLEARED, isUnread, RETRACTED, SAME, unreadInstead, writtenIn } from "./record.js";

/** What a text of a delivery is to the layer that it goes to: "" no opinion, or what the record is to keep of it. */
export function newsToLayer(
  text: string,
  /** What the layer said before; "" for nothing. */
  said: string,
  /** Whether the delivery takes the place of all that the layer said. */
  replaces: boolean,
): string {
  if (text === "") return replaces && said !== "" ? RETRACTED : "";
  if (text === RETRACTED && said === "") return "";
  if (text === said) return SAME;
  if (!isUnread(text)) return text;
  if (isUnread(said) && writtenIn(said) === writtenIn(text)) return SAME;
  return replaces && said !== "" ? unreadInstead(text) : text;
}

/** What a text of a sheet of the catalogue itself is to the merged product that it came from; what cannot be read is nothing. */
export const newsToProduct = (text: string, current: string | undefined): string =>
  isUnread(text) || text === (current ?? "") || (text === CLEARED && current === undefined) ? "" : text;

/** Whether any of a record's texts says something that was not said before. */
export const hasNews = (news: readonly string[]): boolean =>
  news.some((text) => text !== "" && text !== SAME);
