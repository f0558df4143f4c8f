// Candidates for a line that was read, the likest first: the near ones by their letters' forms, then laid over the picture one by one.
import type { FaceIndex } from "../faces/index-of-faces.ts";
import { blurred, comparedScale, layOver, SIGMAS, type Laid, type Target } from "./lay-over.ts";
import { comparedLine, LEAST_SURE, type ComparedLine, type LineRead } from "../picture/read-line.ts";
import { setLine, type SetLetter } from "../faces/set-line.ts";
import { shortlist } from "./shortlist.ts";

/** So many of the nearest are drawn. */
const DRAWN = 220;
/** The blur is found on so many of the best. */
const BLUR_ON = 12;
/** So many of the best are looked at closely, and so many of these under several blurs. */
const CLOSE = 48;
const AGAIN = 16;
/** Pixels a line is high in the first look and in the close one. */
const COARSE_HEIGHT = 30;
const FINE_HEIGHT = 56;
const SMOOTHED = 0.6;

export interface Ranked {
  face: number;
  /** Ink not shared with the picture, by ink: 0 is the same drawing. */
  error: number;
  laid: Laid;
  letters: readonly SetLetter[];
}
export interface Ranking {
  /** The likest first. */
  found: Ranked[];
  target: ComparedLine;
  sigma: number;
}

/** The letters of words nobody typed: each is set by itself, where it was seen. */
function setApart(bytes: Uint8Array, index: number, line: LineRead): SetLetter[] | undefined {
  const found: SetLetter[] = [];
  let lacking = 0;
  for (const [i, { letter, sure }] of line.letters.entries()) {
    if (letter === "" || sure < LEAST_SURE) continue;
    const [one] = setLine(bytes, index, letter) ?? [];
    if (one) found.push({ ...one, first: i, last: i });
    else lacking++;
  }
  return found.length === 0 || lacking > found.length ? undefined : found;
}

/** Letters stretched, or set otherwise than the face sets them, are less likely its own; but photos stretch, and people space out. */
const errorOf = ({ error, stretch, spacing, unevenness }: Laid): number =>
  error + 0.05 * Math.log(stretch) ** 2 + 2 * Math.min(0.01, spacing * spacing) + Math.min(0.01, unevenness * unevenness);

export type LoadFace = (face: number) => { bytes: Uint8Array; index: number } | undefined;

/** The order in which faces are drawn: the nearest by form; where letters could not be told apart, all that may be it. */
export function nearFaces(
  line: LineRead,
  index: FaceIndex,
  isJoined: (face: number) => boolean,
  allowed: (face: number) => boolean,
): number[] {
  const near = shortlist(index, line.seen, Infinity)
    .map(({ face }) => face)
    .filter(allowed)
    .slice(0, DRAWN);
  if (line.apart && near.length > 0) return near;
  // What is joined comes first where letters hang together.
  const rest = Array.from({ length: index.size }, (_, face) => face).filter((face) => index.has(face, line.script) && allowed(face));
  const joined = rest.filter(isJoined);
  return [...new Set([...near.slice(0, DRAWN / 2), ...joined, ...near.slice(DRAWN / 2), ...(line.seen.length === 0 ? rest : [])])];
}

/** Lays faces over a line. `onLaid` is told how many were done; when it answers false, what was found so far is given. */
export async function ranked(
  line: LineRead,
  typed: boolean,
  faces: readonly number[],
  load: LoadFace,
  onLaid: (done: number) => Promise<boolean> = () => Promise.resolve(true),
): Promise<Ranking> {
  // A first look at all of them in a small picture, then a close one at the best.
  const coarse = makeTarget(line, typed, COARSE_HEIGHT);
  const fine = makeTarget(line, typed, FINE_HEIGHT);
  const sets = new Map<number, SetLetter[]>();
  const lay = (at: Looked, face: number, blur: number, steps: number): Ranked | undefined => {
    // The picture is smoothed a little against its noise; a drawing is blurred by that and by what the picture's own blur seems to be.
    // Where letters touch, those that were told apart may have been told apart wrongly: the words are laid over as one, too.
    const ways = steps >= 2 && typed ? [at.target, at.asOne] : [at.target];
    const found = ways.flatMap((target) => {
      const laid = layOver(sets.get(face)!, target, at.seen, Math.hypot(blur, SMOOTHED), steps);
      return laid ? [{ face, laid, letters: sets.get(face)!, error: errorOf(laid) }] : [];
    });
    return found.sort(byError)[0];
  };
  let sigma = SIGMAS[1]!;
  const first: Ranked[] = [];
  for (const [done, face] of faces.entries()) {
    if (!(await onLaid(done))) break;
    const file = load(face);
    const own = file && (typed ? setLine(file.bytes, file.index, line.words) : setApart(file.bytes, file.index, line));
    if (!own) continue;
    sets.set(face, own);
    const one = lay(coarse, face, sigma, 1);
    if (one) first.push(one);
    if (first.length === BLUR_ON && faces.length > BLUR_ON) {
      // Those that came before the blur was known are looked at again with it.
      sigma = bestBlur(first, (of, blur) => lay(coarse, of, blur, 1));
      first.splice(0, BLUR_ON, ...first.flatMap((before) => lay(coarse, before.face, sigma, 1) ?? []));
    }
  }
  first.sort(byError);
  const close = first.slice(0, CLOSE).flatMap(({ face }) => lay(fine, face, sigma, 2) ?? []);
  const blur = bestBlur(close, (of, one) => lay(fine, of, one, 2));
  // A face may explain more under a neighbouring blur than the best did.
  const near = SIGMAS.filter((one) => Math.abs(SIGMAS.indexOf(one) - SIGMAS.indexOf(blur)) <= 1);
  close.sort(byError);
  const last = close.slice(0, AGAIN).flatMap(({ face }) =>
    near
      .flatMap((one) => lay(fine, face, one, 2) ?? [])
      .sort(byError)
      .slice(0, 1),
  );
  const rest = new Set(last.map(({ face }) => face));
  return {
    found: [...last.sort(byError), ...close.filter(({ face }) => !rest.has(face))],
    target: fine.target,
    sigma: blur,
  };
}
const byError = (a: Ranked, b: Ranked): number => a.error - b.error;

interface Looked {
  target: ComparedLine;
  /** Without the places letters were told apart at. */
  asOne: ComparedLine;
  seen: Float32Array;
}
function makeTarget(line: LineRead, typed: boolean, height: number): Looked {
  const { box } = line.inked;
  const scale = comparedScale(box.y1 - box.y0, box.x1 - box.x0, height);
  const target = comparedLine(line, scale);
  if (!typed) maskUnsure(line, target);
  const { ink, width, height: high } = target.grey;
  const nowhere = target.places.map(() => undefined);
  return { target, asOne: { ...target, places: nowhere }, seen: blurred(ink, width, high, SMOOTHED) };
}

/** The blur the best of some explain most with. */
function bestBlur(some: readonly Ranked[], lay: (face: number, sigma: number) => Ranked | undefined): number {
  const best = [...some].sort(byError).slice(0, 3);
  let [sigma, least] = [SIGMAS[1]!, Infinity];
  for (const one of SIGMAS) {
    const error = best.reduce((sum, { face }) => Math.min(sum, lay(face, one)?.error ?? Infinity), Infinity);
    if (error < least) [sigma, least] = [one, error];
  }
  return sigma;
}
/** Letters that were not surely recognised are left out of the picture. */
function maskUnsure({ letters }: LineRead, target: Target): void {
  const { grey, places } = target;
  for (const [i, { letter, sure }] of letters.entries()) {
    const place = places[i];
    if (!place || (letter !== "" && sure >= LEAST_SURE)) continue;
    for (let y = Math.max(0, Math.floor(place.y0) - 1); y < Math.min(grey.height, place.y1 + 1); y++)
      for (let x = Math.max(0, Math.floor(place.x0) - 1); x < Math.min(grey.width, place.x1 + 1); x++) grey.ink[y * grey.width + x] = 0;
  }
}
