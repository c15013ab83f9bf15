import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Job = Schemas["JobJob"];
export type Assessment = Schemas["AssessAssessment"];
export type Rung = Schemas["AssessRung"];
export type Detail = Schemas["AssessDetail"];
export type PickFigures = Schemas["AssessPickFigures"];
export type Settings = Schemas["JobSettings"];
export type Verdict = Assessment["verdict"];
export type Fault = Schemas["IntakeFault"];
export type Pick = Schemas["JobPick"];
export type Fact = Schemas["JobFact"];
export type Wood = Schemas["JobWood"];
export type Rig = Schemas["JobRig"];
export type Limb = Schemas["JobLimb"];
export type LimbShape = Schemas["AssessLimbShape"];
export type Shape = Schemas["AssessShape"];
export type Station = Schemas["TimberStation"];
export type TreeFigures = Schemas["AssessTreeFigures"];
export type Tree = Schemas["JobTree"];
export type Place = Schemas["JobPlace"];
export type Target = Schemas["JobTarget"];
export type Spot = Schemas["JobSpot"];
export type Reading = Schemas["JobReading"];
export type Rope = Schemas["GearNamedRope"];
export type Reference = Schemas["Reference"];
export type Quantity = Schemas["UnitsShown"]["quantity"];
export type Unit = Schemas["UnitsUnit"];
export type JobRow = Schemas["JobRow"];
export type Brought = Schemas["Brought"];
export type PlanRead = Schemas["ExchangeRead"];
export type PlanPart = Schemas["ExchangePart"];
export type PlanTold = Schemas["ExchangeTold"];
export type Earth = Schemas["JobEarth"];
export type JobHead = Schemas["JobHead"];
export type JobFigures = Schemas["JobFigures"];
export type Step = Schemas["WorkingStep"];
export type Trace = Schemas["CourseTrace"];
export type Proposal = Schemas["ProposeProposal"];
export type Rose = Schemas["ProposeRose"];
export type Whole = Schemas["ProposeWhole"];
export type GroundFigures = Schemas["GroundGround"];
export type GroundPiece = Schemas["GroundPiece"];
export type BenchLaid = Schemas["BenchLaid"];
export type BenchAsked = Schemas["BenchAsked"];
export type Swept = Schemas["BenchSwept"];
export type Answer = Schemas["ProposeAnswer"];
export type Merged = Schemas["JobMerged"];
export type Conflict = Schemas["JobConflict"];
export type Crew = Schemas["PolicyCrew"];
export type Policy = Schemas["PolicyPolicy"];
export type PolicySave = Schemas["PolicySave"];
export type PolicyHead = Schemas["PolicyHead"];
export type Rule = Schemas["PolicyRule"];
export type JobEffect = Schemas["JobEffect"];
export type GearStanding = Schemas["PolicyGearStanding"];
export type Item = Schemas["LockerItem"];
export type ItemRow = Schemas["ItemRow"];
export type MergedItem = Schemas["LockerMerged"];
export type ItemHead = Schemas["ItemHead"];
export type LockerList = Schemas["LockerList"];
export type Standing = Schemas["LockerStanding"];
export type Preview = Schemas["ImportPreview"];
export type Problem = Schemas["Problem"];
export type Paper = Schemas["BriefPaper"];
export type BriefingHead = Schemas["BriefingHead"];
export type PhotoHead = Schemas["PhotoHead"];
export type Sight = Schemas["SightRequest"];
export type GuessedTree = Schemas["SilhouetteGuess"];
export type Weights = Schemas["BenchWeights"];
export type WrapsCard = Schemas["BenchWrapsCard"];
export type SightRead = Schemas["SightRead"];
export type Way = Pick["way"];

type Query<
  P extends
    | "/api/assess"
    | "/api/ask"
    | "/api/propose"
    | "/api/simulate"
    | "/api/rose"
    | "/api/trees"
    | "/api/hold"
    | "/api/sweep",
> = NonNullable<paths[P]["post"]["parameters"]["query"]>;

/** What is asked of a job beside the job itself. */
export type Asked = Partial<
  Query<"/api/assess"> &
    Query<"/api/ask"> &
    Query<"/api/propose"> &
    Query<"/api/simulate"> &
    Query<"/api/rose"> &
    Query<"/api/trees"> &
    Query<"/api/hold"> &
    Query<"/api/sweep">
>;
export type System = "metric" | "us";

/** How long any request may take: one that hangs must not stall what waits for it, ms. */
const limit = 12_000;

/** As fetch, with an end; what only reads is tried once more. */
export async function fetchInTime(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const request = new Request(input, init);
  const attempt = async (one: Request) => {
    const ending = new AbortController();
    const timer = setTimeout(() => ending.abort(new Error("the server took too long")), limit);
    request.signal.addEventListener("abort", () => ending.abort(request.signal.reason));
    try {
      return await fetch(one, { signal: ending.signal });
    } finally {
      clearTimeout(timer);
    }
  };
  if (request.method !== "GET") return attempt(request);
  return attempt(request.clone()).catch((error: unknown) => {
    if (request.signal.aborted) throw error;
    return attempt(request);
  });
}

export const api = createClient<paths>({ baseUrl: "/", fetch: fetchInTime });

/** A new id. randomUUID needs a secure page; a phone on the crew's own network may not have one. */
export function newId(): string {
  if ("randomUUID" in crypto) return crypto.randomUUID();
  const bytes = (crypto as Crypto).getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
  return [8, 12, 16, 20]
    .reduceRight((text, at) => text.slice(0, at) + "-" + text.slice(at), hex)
    .toString();
}

/** The sentence of a refusal, or one for a server that does not answer. */
export function explain(error: unknown): string {
  if (error && typeof error === "object" && "detail" in error && error.detail) {
    return String(error.detail);
  }
  return "The server does not answer.";
}

/** What was refused, field by field. */
export function sentences(error: unknown): string[] {
  if (error && typeof error === "object" && "errors" in error && Array.isArray(error.errors)) {
    const faults = error.errors as { location: string; message: string; allowed: string }[];
    if (faults.length) {
      return faults.map((f) => `${f.location}: ${f.message}. Allowed: ${f.allowed}.`);
    }
  }
  return [explain(error)];
}
