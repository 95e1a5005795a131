/** What every part of a job's page works with. */
import { createContext, useContext } from "react";
import type { Document, ListName, State } from "./document";
import type { Operation } from "./changes";
import type { Report } from "./useCheck";

export interface WorkContext {
  document: Document;
  /** The document resolved to the state that is shown and edited. */
  site: Document;
  state: State;
  report: Report | null;
  mayWrite: boolean;
  selected: string | null;
  touched: Set<string>;
  select: (id: string | null) => void;
  /** Keep the working of a figure with each report until the returned function is called. */
  openWorking: (key: string) => () => void;
  act: (label: string, operations: Operation[], key?: string) => void;
  put: (list: ListName, id: string, field: string, value: unknown, label?: string) => void;
  /** Take a thing out; where more goes with it, that is said first. */
  remove: (label: string, list: ListName, id: string) => void;
  seal: () => void;
}

export const Work = createContext<WorkContext | null>(null);

export function useWork(): WorkContext {
  const work = useContext(Work);
  if (!work) throw new Error("useWork outside of a job");
  return work;
}
