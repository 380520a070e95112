import { wording } from "./texts.js";

export function heading(): string {
  return wording.sailingsTitle;
}
