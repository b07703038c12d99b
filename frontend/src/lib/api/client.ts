import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Answer = Schemas['Answer'];
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
export type FrontPoint = Schemas['FrontPoint'];
export type MeasureEffects = Schemas['Effects'];
export type Paper = Schemas['PaperOut'];
export type SpaceDoc = Schemas['Space'];
export type MachineRow = Schemas['MachineRow'];
export type Pipe = Schemas['Pipe'];
export type JobList = Schemas['JobList'];
export type History = Schemas['History'];
export type Refusal = Schemas['ErrorOut'];
export type Kind = 'constructions' | 'emitter_types' | 'pipe_families' | 'machines' | 'climates' | 'tables';
export type Frozen = { origin: 'library' | 'company' | 'job'; edition: string; sha256: string; data: unknown };

/** The one place that talks to /api. */
export const api = createClient<paths>({ baseUrl: '' });
