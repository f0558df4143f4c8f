// Who looks, remembered by this browser.
import { makeStore } from "./store.ts";

export const who = makeStore("", "buvano.who");
