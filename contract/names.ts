// Names people give: one line, no control characters, no marks that turn text around.
import { z } from "zod";
import { plainName } from "../core/words/plain.ts";

/** Looked at before it is made plain: nobody types more. */
const MOST_SENT = 2000;
/** A name of at most so many characters, as it may be shown and written. */
export const nameOf = (most: number) => z.string().max(MOST_SENT).transform(plainName).pipe(z.string().min(1).max(most));
/** The same, which may be left empty. */
export const nameOrNothing = (most: number) => z.string().max(MOST_SENT).transform(plainName).pipe(z.string().max(most));
