/** Local rules that are understood: what each is called and how it begins. */
export interface LocalRule {
  key: string;
  label: string;
  action: "at_least" | "forbid";
  value: number | null;
  unit: string;
}

export const LOCAL_RULES: LocalRule[] = [
  { key: "burial_cover_in", label: "Deeper cover", action: "at_least", value: 24, unit: "in" },
  { key: "material_aluminum", label: "No aluminum", action: "forbid", value: null, unit: "" },
  { key: "disconnect_least_a", label: "Smallest main", action: "at_least", value: 100, unit: "A" },
  { key: "electrode_rods", label: "Rods at least", action: "at_least", value: 2, unit: "" },
];

export function ruleWords(rule: { key: string; value?: number | null; unit?: string }): string {
  const label = LOCAL_RULES.find((item) => item.key === rule.key)?.label ?? rule.key.replaceAll("_", " ");
  return rule.value === null || rule.value === undefined ? label : `${label} ${rule.value} ${rule.unit ?? ""}`.trim();
}
