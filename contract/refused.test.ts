// Refusals in words.
import { expect, test } from "@jest/globals";
import { z } from "zod";
import { JobRequest } from "./jobs.ts";
import { TagName } from "./families.ts";
import { speakPlainly } from "./refused.ts";

speakPlainly();
const said = (schema: z.ZodType, value: unknown): string[] => {
  const result = schema.safeParse(value);
  return result.success ? [] : result.error.issues.map((issue) => issue.message);
};

test("limits are said as people say them", () => {
  expect(said(TagName, "x".repeat(41))).toEqual(["At most 40 characters."]);
  expect(said(z.string().min(1), "")).toEqual(["Write something here."]);
  expect(said(z.array(z.number()).min(1), [])).toEqual(["Choose at least one."]);
  expect(said(z.number().max(9), 10)).toEqual(["At most 9."]);
  expect(said(z.number().min(2), 1)).toEqual(["At least 2."]);
  const job = { name: "", uses: [], languages: [], words: "", familyIds: [], deviceIds: [] };
  expect(said(JobRequest, job)).toEqual(["Write something here.", "Choose at least one."]);
});
test("what is no limit keeps the library's own words", () => {
  expect(said(z.string(), 3)[0]).toContain("expected string");
});
