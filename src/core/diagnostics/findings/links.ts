import { correctIt } from "../act.js";
import { byField, nothing, type LinkFact, listingFinding } from "../finding.js";
import { quote } from "../phrases.js";

/** The web addresses that listings show. */
export const links = {
  "link-missing": listingFinding<LinkFact & { readonly status: number }>({
    says: ({ label, url, status }) =>
      `${label}: ${url} is not there (the server answers ${status}); correct the address, or put the file there`,
    ofMany: ({ label, status }) => `${label} is not there: the server answers ${status}`,
    apart: ({ status }) => String(status),
    act: correctIt,
    asks: nothing,
  }),
  "link-unreachable": listingFinding<LinkFact & { readonly reason: string }>({
    says: ({ label, url, reason }) => `${label}: ${url} could not be reached: ${reason}`,
    ofMany: ({ label, reason }) => `${label} could not be reached: ${reason}`,
    apart: ({ reason }) => reason,
    act: correctIt,
    asks: nothing,
  }),
  "link-refused": listingFinding<LinkFact & { readonly reason: string }>({
    says: ({ label, url, reason }) => `${label}: ${url} was not asked: ${reason}`,
    ofMany: ({ label, reason }) => `${label} was not asked: ${reason}`,
    apart: ({ reason }) => reason,
    act: correctIt,
    asks: nothing,
  }),
  "not-a-picture": listingFinding<LinkFact & { readonly type: string }>({
    says: ({ label, url, type }) =>
      `${label}: ${url} is ${type === "" ? "of no stated type" : quote(type)}, and a picture is wanted`,
    ofMany: ({ label }) => `${label} is no picture`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "broken-picture": listingFinding<LinkFact & { readonly reason: string }>({
    says: ({ label, url, reason }) => `${label}: ${url} cannot be shown as a picture: ${reason}`,
    ofMany: ({ label, reason }) => `${label} cannot be shown as a picture: ${reason}`,
    apart: ({ reason }) => reason,
    act: correctIt,
    asks: nothing,
  }),
  "picture-too-small": listingFinding<
    LinkFact & {
      readonly width: number;
      readonly height: number;
      readonly least: number;
    }
  >({
    says: ({ label, url, width, height, least }) =>
      `${label}: ${url} is ${width} × ${height} pixels, and at least ${least} × ${least} are wanted`,
    ofMany: ({ label, least }) => `${label} has fewer than ${least} × ${least} pixels`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
} as const;
