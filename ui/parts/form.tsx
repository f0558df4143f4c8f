// Forms: a contract's schema checks what is typed, says its limits beforehand and what is wrong at the field.
import { zodResolver } from "@hookform/resolvers/zod";
import { useCallback, useState, type ComponentProps } from "react";
import { useController, useForm, type DefaultValues, type FieldPath, type FieldValues, type UseFormReturn } from "react-hook-form";
import type { z } from "zod";
import { limitsOf } from "../../contract/limits.ts";
import { rangeWords, tooLongWords } from "../../core/words/words.ts";
import { DayInput } from "../web/DayInput.tsx";
import { Field, Labelled } from "./Field.tsx";
import { SAY } from "../sentences/parts.ts";
import { Small } from "./Text.tsx";

/** A form over a contract's schema; `Asked` is what is typed, `Sent` what the schema makes of it. */
export interface ContractForm<Asked extends FieldValues, Sent> extends UseFormReturn<Asked, unknown, Sent> {
  schema: z.ZodType<Sent, Asked>;
}

/** Fields speak up when they are left, and all of them when the form is sent; then the first that is wrong gets the focus. */
export function useContractForm<Asked extends FieldValues, Sent extends FieldValues>(
  schema: z.ZodType<Sent, Asked>,
  start: DefaultValues<Asked>,
): ContractForm<Asked, Sent> {
  const form = useForm<Asked, unknown, Sent>({ resolver: zodResolver(schema), defaultValues: start, mode: "onTouched" });
  return { ...form, schema };
}

/** The same for what is kept and may change elsewhere: fields nobody touched follow it. */
export function useKeptForm<Asked extends FieldValues, Sent extends FieldValues>(
  schema: z.ZodType<Sent, Asked>,
  kept: Asked,
): ContractForm<Asked, Sent> {
  const form = useForm<Asked, unknown, Sent>({
    resolver: zodResolver(schema),
    defaultValues: kept as DefaultValues<Asked>,
    mode: "onTouched",
    values: kept,
    resetOptions: { keepDirtyValues: true },
  });
  return { ...form, schema };
}

interface Props<Asked extends FieldValues> {
  // What is sent is of no interest to a single field.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  form: ContractForm<Asked, any>;
  name: FieldPath<Asked>;
}
type FieldProps = Omit<ComponentProps<typeof Field>, "value" | "onChange" | "problem" | "ref">;

const useField = <Asked extends FieldValues>({ form, name }: Props<Asked>) => {
  const { field, fieldState } = useController({ control: form.control, name });
  return { field, problem: fieldState.error?.message, limits: limitsOf(form.schema, name) };
};

interface TextProps {
  /** What is made of the text as it is typed. */
  shape?: (text: string) => string;
  onChanged?: (text: string) => void;
}

/** A line of text; how many characters are left is said while there are few, and that there are too many as soon as there are. */
export function TextField<Asked extends FieldValues>(props: Props<Asked> & FieldProps & TextProps) {
  const { form, name, hint, onLeave, shape = (text) => text, onChanged, ...more } = props;
  const { field, problem, limits } = useField({ form, name });
  const value = field.value as string;
  const left = limits.longest === undefined ? Infinity : limits.longest - value.trim().length;
  const few = limits.longest !== undefined && left >= 0 && left <= Math.max(10, limits.longest / 10);
  return (
    <Field
      {...more}
      ref={field.ref}
      value={value}
      onChange={(text) => {
        field.onChange(shape(text));
        onChanged?.(shape(text));
      }}
      onLeave={() => {
        field.onBlur();
        onLeave?.();
      }}
      hint={few ? SAY.charactersLeft(left) : hint}
      problem={left < 0 ? tooLongWords(limits.longest ?? 0) : problem}
    />
  );
}

const parsed = (text: string): number => (text.trim() === "" ? NaN : Number(text.trim().replace(",", ".")));

interface NumberProps {
  /** Whether nothing at all is an answer too: null. */
  optional?: boolean;
  /** Whether its bounds are said beforehand. */
  bounds?: boolean;
  /** How a number is written and read where it is not written as it is kept. */
  write?: (value: number) => string;
  read?: (text: string) => number;
}

/** A number, with its bounds said below; the form holds NaN while what is typed is none. */
export function NumberField<Asked extends FieldValues>(props: Props<Asked> & FieldProps & NumberProps) {
  const { form, name, hint, optional = false, bounds = true, write = String, read = parsed, ...more } = props;
  const { field, problem, limits } = useField({ form, name });
  const kept = field.value as number | null;
  const [typed, setTyped] = useState<string>();
  const valueOf = (text: string): number | null => (optional && text.trim() === "" ? null : read(text));
  const shown =
    typed !== undefined && Object.is(valueOf(typed), kept) ? typed : kept === null || Number.isNaN(kept) ? (typed ?? "") : write(kept);
  return (
    <Field
      {...more}
      numeric
      ref={field.ref}
      value={shown}
      onChange={(text) => {
        setTyped(text);
        field.onChange(valueOf(text));
      }}
      onLeave={field.onBlur}
      hint={[hint, bounds ? rangeWords(limits) : ""].filter(Boolean).join(" ") || undefined}
      problem={problem}
    />
  );
}

/** A day, by the platform's picker; null where none is given and none is needed. */
export function DayField<Asked extends FieldValues>({
  form,
  name,
  label,
  hint,
  optional = false,
  testID,
}: Props<Asked> & Pick<FieldProps, "label" | "hint" | "testID"> & { optional?: boolean }) {
  const { field, problem } = useField({ form, name });
  return (
    <Labelled label={label} hint={hint} problem={problem}>
      {(describedBy) => (
        <DayInput
          ref={field.ref}
          label={label}
          value={(field.value as string | null) ?? ""}
          onChange={(day) => field.onChange(optional && day === "" ? null : day)}
          onBlur={field.onBlur}
          invalid={problem !== undefined}
          describedBy={describedBy}
          testID={testID}
        />
      )}
    </Labelled>
  );
}

/** What is wrong with a list of ticks, below it. */
export function FieldProblem<Asked extends FieldValues>({ form, name }: Props<Asked>) {
  const { problem } = useField({ form, name });
  return problem === undefined ? null : (
    <Small className="-mt-3 mb-4 text-warning" testID={`problem-${name}`}>
      {problem}
    </Small>
  );
}

/** A list in the form with one more, or one less. */
export function useToggle<Asked extends FieldValues>({ form, name }: Props<Asked>) {
  const { field } = useController({ control: form.control, name });
  const { onChange } = field;
  const list = field.value as readonly unknown[];
  const put = useCallback(
    (one: unknown, on: boolean) => onChange(on ? [...list, one] : list.filter((other) => other !== one)),
    [list, onChange],
  );
  return { has: (one: unknown) => list.includes(one), put };
}
