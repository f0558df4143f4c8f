// Numbers in addresses.
import { useLocalSearchParams } from "expo-router";

/** The number a parameter of the address holds; undefined when it holds none. */
export function useNumberParam(name: string): number | undefined {
  const value = useLocalSearchParams()[name];
  return typeof value === "string" && /^\d+$/.test(value) ? Number(value) : undefined;
}

/** The numbers, with commas between, a parameter of the address holds; undefined when it holds none. */
export function useListParam(name: string): string | undefined {
  const value = useLocalSearchParams()[name];
  return typeof value === "string" && /^\d+(,\d+)*$/.test(value) ? value : undefined;
}
