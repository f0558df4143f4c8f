// What pictures are worth as evidence: how often they are told rightly, and how far the likeness can be relied on.
import { isRight, isWrong, judgeRelatives, RELATIVES, RENDERERS } from "../reference/relatives.ts";

const BINS = [0, 0.5, 0.8, 0.9, 0.95, 0.97, 0.98, 0.99, 1.01];

export function benchPictures(print: (line: string) => void): void {
  const all = judgeRelatives(RELATIVES);
  print(`pictures: ${all.length} cases, ${all.filter(isRight).length} right, ${all.filter(isWrong).length} wrong, the rest cannot be told`);
  for (const renderer of RENDERERS) {
    const own = all.filter((one) => one.renderer === renderer);
    print(`  ${renderer}: ${own.length} cases, ${own.filter(isRight).length} right, ${own.filter(isWrong).length} wrong`);
  }
  print("  likeness of the best candidate: how many, how many of them the true font; told, rightly told");
  for (const [i, from] of BINS.slice(0, -1).entries()) {
    const own = all.filter(({ score }) => score >= from && score < BINS[i + 1]!);
    const told = own.filter(({ shown }) => shown !== undefined);
    const of = (list: typeof own) => list.filter(({ likest, font }) => likest === font).length;
    print(`  ${from.toFixed(2)} to ${Math.min(1, BINS[i + 1]!).toFixed(2)}: ${own.length}, ${of(own)}; ${told.length}, ${of(told)}`);
  }
}
