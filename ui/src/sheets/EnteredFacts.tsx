/** Facts that no figure tells, where they decide something: which these are comes with the report. */
import { useDerived, useWork } from "../core/context";
import { find, listOf, type ListName } from "../core/document";
import { limitOf } from "../core/limits";
import { unitOf } from "../core/words";
import { Group } from "./parts";
import { ThingField } from "./ThingField";

interface OfThings {
  list: ListName;
  ids: string[];
  /** A heading, where they stand as a group of their own. */
  title?: string;
}

function kindOf(list: ListName, field: string): "yes-no" | "number" | "choice" {
  const { type } = limitOf(list, field);
  return type === "boolean" ? "yes-no" : type === "number" ? "number" : "choice";
}

export function EnteredFacts({ list, ids, title }: OfThings) {
  const facts = useDerived(({ report }) => report?.facts) ?? [];
  const { site } = useWork("site");
  const own = facts.filter((fact) => fact.list === list && ids.includes(fact.id));
  const fields = own.map((fact) => {
    const thing = find(listOf(site, list), fact.id);
    return thing ? (
      <ThingField
        key={`${fact.id} ${fact.field}`}
        kind={kindOf(list, fact.field)}
        unit={unitOf(fact.field)}
        list={list}
        thing={thing}
        field={fact.field}
        label={fact.label}
        hint={fact.hint}
      />
    ) : null;
  });
  if (fields.length === 0) return null;
  return title ? <Group title={title}>{fields}</Group> : <>{fields}</>;
}
