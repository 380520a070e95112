import { type Culture, CultureSwitch } from "./cultureSwitch.js";
import { CultureStore } from "./cultureStore.js";
import { Wording } from "./wording.js";
import { effect, signal } from "@preact/signals-core";

declare const title: HTMLElement;
declare const cultures: CultureSwitch; //? !cultures
declare const wording: Wording; //? !wording
declare const store: CultureStore; //? !store
BLOCK
export {};
