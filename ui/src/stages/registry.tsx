/** The stages of a job in the order of the work: each with its address, its title and its view. */
import type { ComponentType } from "react";
import { BondsStage } from "./bonds/BondsStage";
import { CurrentsStage } from "./currents/CurrentsStage";
import { LoadsStage } from "./loads/LoadsStage";
import { PacketStage } from "./packet/PacketStage";
import { PanelsStage } from "./panels/PanelsStage";
import { PathStage } from "./path/PathStage";
import { SurveyStage } from "./survey/SurveyStage";

/** What every stage is handed besides the work that it takes from its context. */
export interface StageProps {
  jobId: string;
  saved: boolean;
}

export interface Stage {
  name: string;
  title: string;
  view: ComponentType<StageProps>;
}

export const STAGES: Stage[] = [
  { name: "survey", title: "Survey", view: SurveyStage },
  { name: "loads", title: "Loads", view: LoadsStage },
  { name: "path", title: "Path", view: PathStage },
  { name: "panels", title: "Panels", view: PanelsStage },
  { name: "bonds", title: "Bonds", view: BondsStage },
  { name: "currents", title: "Currents", view: CurrentsStage },
  { name: "packet", title: "Packet", view: PacketStage },
];

const FIRST_SHOWN = "path";

/** The stage of an address; the path where the address names none. */
export function stageNamed(name: string): Stage {
  const found = STAGES.find((item) => item.name === name) ?? STAGES.find((item) => item.name === FIRST_SHOWN);
  if (!found) throw new Error("no stage");
  return found;
}
