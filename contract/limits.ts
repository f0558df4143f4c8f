// The limits a schema sets, read from the schema itself, so that they can be said before anybody meets them.
import { z } from "zod";

export interface Limits {
  /** Characters at most. */
  longest?: number;
  least?: number;
  most?: number;
}

/** What stands under optional, nullable and defaulted, and what comes out where a text is made plain first. */
function bare(schema: z.ZodType): z.ZodType {
  let one = schema;
  for (;;) {
    if (one instanceof z.ZodOptional || one instanceof z.ZodNullable || one instanceof z.ZodDefault) one = one.unwrap() as z.ZodType;
    else if (one instanceof z.ZodPipe) one = one.out as z.ZodType;
    else return one;
  }
}

/** The schemas that may stand at a path such as "limits.entries"; several where alternatives have that field. */
function at(schema: z.ZodType, path: readonly string[]): z.ZodType[] {
  const one = bare(schema);
  const [key, ...rest] = path;
  if (key === undefined) return [one];
  if (one instanceof z.ZodUnion) return one.options.flatMap((option) => at(option as z.ZodType, path));
  if (one instanceof z.ZodRecord) return at(one.valueType as z.ZodType, rest);
  const field = one instanceof z.ZodObject ? (one.shape[key] as z.ZodType | undefined) : undefined;
  return field ? at(field, rest) : [];
}

/** The limits of the field at a dotted path; empty where the schema sets none or has no such field. */
export function limitsOf(schema: z.ZodType, path: string): Limits {
  for (const field of at(schema, path.split("."))) {
    if (field instanceof z.ZodString && field.maxLength !== null) return { longest: field.maxLength };
    if (field instanceof z.ZodNumber) {
      const { minValue, maxValue } = field;
      return {
        ...(minValue !== null && Number.isSafeInteger(minValue) ? { least: minValue } : {}),
        ...(maxValue !== null && Number.isSafeInteger(maxValue) ? { most: maxValue } : {}),
      };
    }
  }
  return {};
}
