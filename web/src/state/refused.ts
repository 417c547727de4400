import { useEffect, useState } from "react";
import { Refusal } from "@/api/client";

/**
 * What the API refused of the values the address holds. The value goes out of the address; why it
 * did stays to be read until another takes its place.
 */
export function useRefused<Name extends string>(
  error: unknown,
  standing: Partial<Record<Name, unknown>>,
  names: readonly Name[],
  drop: (name: Name) => void,
): { name: Name; error: Refusal } | undefined {
  const [refused, setRefused] = useState<{ name: Name; value: unknown; error: Refusal }>();
  const now = refused && standing[refused.name];
  const replaced = Boolean(refused && !error && now !== undefined && now !== refused.value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each refusal is taken up once
  useEffect(() => {
    const name = error instanceof Refusal && names.find((n) => n === error.problem.field);
    if (name) {
      setRefused({ name, value: standing[name], error });
      drop(name);
    } else if (replaced) setRefused(undefined);
  }, [error, replaced]);
  return refused;
}
