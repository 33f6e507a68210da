/** The server's types by the trade's names; all of them are generated from the core's own models. */
import type { components, operations } from "./schema.gen";

type Schemas = components["schemas"];
export type PieceView = Schemas["PieceView"];
export type BenchView = Schemas["BenchView"];
export type PieceLine = Schemas["PieceLine"];
export type PieceDocument = Schemas["Piece"];
export type Part = Schemas["Part"];
export type Join = Schemas["Join"];
export type Work = Schemas["Work"];
export type Form = Part["form"];
export type Profile = Schemas["Wire"]["profile"];
export type Outline = Schemas["Sheet"]["outline"];
export type Picture = Schemas["Picture"];
export type PlacedPart = Schemas["PlacedPart"];
export type Plan = Schemas["Plan"];
export type Step = Plan["steps"][number];
export type HeatStep = Schemas["HeatStep"];
export type Band = Schemas["Band"];
export type Caution = Schemas["Caution"];
export type Why = Schemas["Why"];
export type JoinWhy = Schemas["JoinWhy"];
export type Alternative = Schemas["Alternative"];
export type RuleWords = Schemas["Spoken"];
export type Tables = Schemas["Tables"];
export type Fault = Schemas["Fault"];
export type RunView = Schemas["RunView"];
export type RunSheet = Schemas["RunSheet"];
export type RecordView = Schemas["RecordView"];
export type Rail = Schemas["Rail"];
export type RailEntry = Schemas["RailEntry"];
export type LogLine = Schemas["LogLine"];
export type RestView = Schemas["RestView"];
export type RestOtherwise = Schemas["Otherwise"];
export type FindingView = Schemas["FindingView"];
export type PhotoView = Schemas["PhotoView"];
/** A run as a file has it; the server says what of it is wrong. */
export type RunFile = Record<string, unknown>;
export type LogSums = Schemas["LogSums"];
export type LogChoices = Schemas["LogChoices"];
/** By what the log can be asked. */
export type LogFacets = Omit<LogChoices, "runs" | "runs_in_file">;
/** What is asked of the log. */
export type AskedOfLog = NonNullable<operations["logSums"]["parameters"]["query"]>;
export type Reading = Schemas["Reading"];
export type Quantity = NonNullable<
  NonNullable<operations["readQuantity"]["parameters"]["query"]>["quantity"]
>;
export type OutcomeWord = Schemas["OutcomeWord"];
export type KeyInfo = Schemas["KeyInfo"];
export type CalculatorView = Schemas["CalculatorView"];
export type SizeAnswer = Schemas["AnswerView"];
export type Sketch = Schemas["Sketch"];
export type CutAndSolder = Schemas["CutAndSolder"];
export type LengthPlan = Schemas["LengthPlan"];
export type Bench = Schemas["Bench"];
export type HouseChoice = Schemas["HouseChoice"];
export type HouseOverrides = Schemas["HouseOverrides"];
export type Tool = Schemas["Tool"];
export type StockedMetal = Schemas["StockedMetal"];
export type DrawnOutline = Schemas["DrawnOutline"];
export type DrawnUnit = NonNullable<Schemas["Drawing"]["unit"]>;
export type MakingView = Schemas["MakingView"];
export type Job = Schemas["JobView"];
export type Rehearsal = Schemas["Rehearsal"];
export type RehearsalLine = Schemas["Line"];
export type Habit = Rehearsal["habit"];
export type GlowStep = Schemas["GlowStep"];
export type TorchLine = Schemas["TorchLine"];
export type LoggedLine = Schemas["LoggedLine"];
export type StartView = Schemas["StartView"];
export type StartTyped = Schemas["StartTyped"];
export type AskInfo = Schemas["AskInfo"];
export type Miniature = Schemas["Miniature"];
export type LineView = Schemas["LineView"];
export type ProposalView = Schemas["ProposalView"];
export type Looked = Schemas["Looked"];
