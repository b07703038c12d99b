import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Answer = Schemas['Answer'];
export type Onward = Schemas['Onward'];
export type Job = Schemas['Job'];
export type Design = Schemas['Design'];
export type Effect = Schemas['Effect'];
export type Figure = Schemas['Figure'];
export type RoomResult = Schemas['RoomResult'];
export type Known = Schemas['Known'];
export type Doubts = Schemas['DoubtsOut'];
export type Face = RoomResult['faces'][number];
export type FacePiece = Schemas['FacePiece'];
export type Question = Schemas['QuestionEntry'];
export type Item = Schemas['ItemEntry'];
export type Wall = Schemas['WallVerdict'];
export type RoomDoc = Schemas['Room'];
export type Finding = Schemas['Finding'];
export type Caution = Schemas['Caution'];
export type Working = Schemas['Working'];
/** The library with the company's own entries among its own; `own` names those, with their edition. */
export type Library = Schemas['LibraryOut'] & { own?: Record<string, Record<string, string>> };
export type Section = Schemas['Section'];
export type Construction = Schemas['ConstructionEntry'];
export type Layer = Schemas['LayerEntry'];
export type Climate = Schemas['ClimateEntry'];
export type MeasureEntry = Schemas['MeasureEntry'];
export type CompanyEntry = Schemas['CompanyEntry'];
export type Year = Schemas['Year'];
export type BillCheck = Schemas['BillCheck'];
export type Measures = Schemas['Measures'];
export type Tried = Schemas['Tried'];
export type Front = Schemas['Front'];
export type FrontPoint = Schemas['FrontPoint'];
export type EmitterResult = Schemas['EmitterResult'];
export type EmitterSpec = Schemas['EmitterSpec'];
export type HeatedDoc = Schemas['Heated'];
export type HeatedPreview = Schemas['HeatedPreview'];
export type SpacingResult = Schemas['SpacingResult'];
export type RoomOptions = Schemas['RoomOptions'];
export type RoomOption = Schemas['RoomOption'];
export type Product = Schemas['ProductEntry'];
export type Catalogues = Schemas['CataloguesOut'];
export type MeasureEffects = Schemas['Effects'];
export type Paper = Schemas['PaperOut'];
export type SpaceDoc = Schemas['Space'];
export type CandidateResult = Schemas['CandidateResult'];
export type Alternatives = Schemas['Alternatives'];
export type WaterDays = Schemas['WaterDays'];
export type WaterDay = Schemas['WaterDay'];
export type FlowsFound = Schemas['FlowsFound'];
export type Help = Schemas['Help'];
export type Control = Schemas['Control'];
export type KnownCurve = Schemas['KnownCurve'];
export type Dialled = Schemas['Dialled'];
export type RoomControlFound = Schemas['RoomControlFound'];
export type CorrectionFound = Schemas['CorrectionFound'];
export type FireUpFound = Schemas['FireUpFound'];
export type FireStep = Schemas['StepFound'];
export type FireAsk = Schemas['Ask'];
export type WiringFound = Schemas['WiringFound'];
export type PracticeFound = Schemas['PracticeFound'];
export type Watched = Schemas['WatchedOut'];
export type Source = Schemas['SourceOut'];
export type ReadingsLook = Schemas['ReadingsLook'];
export type TwinFound = Schemas['TwinFound'];
export type TwinWeek = Schemas['TwinWeek'];
export type ControllersFound = Schemas['ControllersFound'];
export type SeparatingFound = Schemas['SeparatingFound'];
export type Variant = Schemas['Variant'];
export type ProtectingFound = Schemas['ProtectingFound'];
export type PipesTested = Schemas['PipesTested'];
export type PipeTest = Schemas['PipeTest'];
export type PlantFound = Schemas['PlantFound'];
export type PlantPart = Schemas['PlantPart'];
export type PlantPipe = Schemas['PlantPipe'];
export type RoutesFound = Schemas['RoutesFound'];
export type MaterialsFound = Schemas['MaterialsFound'];
export type Runs = Schemas['Runs'];
export type OfferFound = Schemas['OfferFound'];
export type OfferVariant = Schemas['OfferVariant'];
export type PackFound = Schemas['PackFound'];
export type RecordLine = Schemas['RecordLine'];
export type UpkeepFound = Schemas['UpkeepFound'];
export type IssuedLine = Schemas['IssuedLine'];
export type WinterFound = Schemas['WinterFound'];
export type LessonsFound = Schemas['LessonsFound'];
export type Kept = Schemas['Kept'];
export type Promised = Schemas['Promise'];
export type Running = Schemas['Running'];
export type MachineDoc = Schemas['MachineEntry'];
export type MachineLook = Schemas['Look'];
export type Pipe = Schemas['Pipe'];
export type JobList = Schemas['JobList'];
export type History = Schemas['History'];
export type Refusal = Schemas['ErrorOut'];
export type Kind =
	'constructions' | 'emitter_types' | 'pipe_families' | 'machines' | 'climates' | 'tables' | 'place_rules';
export type Frozen = { origin: 'library' | 'company' | 'job'; edition: string; sha256: string; data: unknown };

let ends: AbortSignal | undefined;

/** Sends what `ask` asks; `signal` ends the question, for the server too. It is sent before `ask` returns. */
export function until<T>(signal: AbortSignal, ask: () => T): T {
	ends = signal;
	try {
		return ask();
	} finally {
		ends = undefined;
	}
}

/** The one place that talks to /api. */
export const api = createClient<paths>({ baseUrl: '', fetch: (request) => fetch(request, ends && { signal: ends }) });
