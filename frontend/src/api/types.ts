/** Names for what the server's interface description calls these things. */
import type { components } from "./api";

type Schemas = components["schemas"];

export type Game = Schemas["GameAnswer"];
export type Rack = Schemas["GameAnswer.RackAnswer"];
export type Shot = Schemas["GameAnswer.ShotAnswer"];
export type ShotDocument = Shot["document"];
export type Ruling = Schemas["GameAnswer.RulingAnswer"];
export type PositionError = Schemas["GameAnswer.ErrorAnswer"];
export type Table = Schemas["GameAnswer.TableAnswer"];
export type Header = Game["header"];
export type Reading = Schemas["ReadAnswer"];
export type ShotReading = Schemas["ReadAnswer.ShotReadingAnswer"];
export type Camera = Schemas["CameraAnswer"];
export type Recording = Schemas["RecordingAnswer"];
export type RecordingList = Schemas["RecordingList"];
export type DisciplineList = Schemas["DisciplineList"];
export type DisciplineRules = DisciplineList["disciplines"][number];
export type GameList = Schemas["GameList"];
export type PlayerList = Schemas["PlayerList"];
export type Session = Schemas["SessionAnswer"];
export type Upload = Schemas["UploadAnswer"];
export type Figures = Schemas["FiguresAnswer"];
export type Rate = Schemas["FiguresAnswer.RateAnswer"];
export type Mean = Schemas["FiguresAnswer.MeanAnswer"];
export type Change = Schemas["OperationRequest.Change"];
export type Operation = Schemas["OperationRequest"];
export type Lab = Schemas["LabAnswer"];
export type Simulated = Schemas["SimulateAnswer"];
export type SimulateRequest = Schemas["SimulateRequest"];
export type Leg = Schemas["SimulateAnswer.LegAnswer"];
export type ShotEvent = Schemas["SimulateAnswer.EventAnswer"];

export type Place = [number, number];
export type Places = Record<string, Place>;
export type Pocket = NonNullable<NonNullable<ShotDocument["called"]>["pocket"]>;
export type Marks = Record<string, Place>;
export type FoundShot = Schemas["ReadingAnswer.FoundShotAnswer"];
export type SeenBall = Schemas["ReadingAnswer.SeenBallAnswer"];
export type RecordingReading = Schemas["ReadingAnswer"];
export type Still = Schemas["StillAnswer"];
export type Correction = Schemas["CorrectionRequest"];
