/** Names for what the server's interface description calls these things. */
import type { components } from "./api";

type Schemas = components["schemas"];

export type Game = Schemas["GameAnswer"];
export type ReversedGame = Schemas["ReversedGame"];
export type Rack = Schemas["GameAnswer.RackAnswer"];
export type Shot = Schemas["GameAnswer.ShotAnswer"];
export type ShotDocument = Shot["document"];
export type Ruling = Schemas["GameAnswer.RulingAnswer"];
export type PositionError = Schemas["GameAnswer.PositionError"];
export type Table = Schemas["GameAnswer.TableAnswer"];
export type Header = Game["header"];
export type Reading = Schemas["ReadAnswer"];
export type DrawnShape = Schemas["GameAnswer.Shape"];
export type MeasuredShot = Schemas["ReadAnswer.MeasuredShotAnswer"];
export type MeasuredDrawing = Schemas["MeasureAnswer"]["drawings"][number];
export type Gap = MeasuredDrawing["gaps"][number];
export type Camera = Schemas["CameraAnswer"];
export type Recording = Schemas["RecordingAnswer"];
export type RecordingList = Schemas["RecordingList"];
export type DisciplineList = Schemas["DisciplineList"];
export type DisciplineRules = DisciplineList["disciplines"][number];
/** Which matches are looked for. */
export type Sought = Partial<
  Record<"search" | "player" | "discipline" | "session" | "since" | "until", string>
>;
export type GameList = Schemas["GameList"];
export type Unfinished = Schemas["UnfinishedList"]["games"][string];
export type Moment = Schemas["MomentList"]["moments"][number];
export type PlayerList = Schemas["PlayerList"];
export type Session = Schemas["SessionAnswer"];
export type Upload = Schemas["UploadAnswer"];
export type ShotList = Schemas["ShotList"];
export type Figures = Schemas["FiguresAnswer"];
export type Rate = Schemas["FiguresAnswer.Rate"];
export type Mean = Schemas["FiguresAnswer.Mean"];
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
export type TableTold = Schemas["TableToldAnswer"];
export type FoundShot = Schemas["ReadingAnswer.FoundShotAnswer"];
export type SeenBall = Schemas["ReadingAnswer.SeenBallAnswer"];
export type RecordingReading = Schemas["ReadingAnswer"];
export type Still = Schemas["StillAnswer"];
export type Correction = Schemas["CorrectionRequest"];
export type Choices = Schemas["ShotChoicesAnswer"];
export type ChoicesRequest = Schemas["ShotChoicesRequest"];
export type HandName = ChoicesRequest["player"];
export type PositionMap = Schemas["ShotChoicesAnswer.MapAnswer"];
export type Option = Schemas["ShotChoicesAnswer.OptionAnswer"];
export type OptionList = Schemas["ShotChoicesAnswer.OptionsBody"];
export type PlanBody = Schemas["ShotChoicesAnswer.PlanBody"];
export type TroubleBody = Schemas["ShotChoicesAnswer.TroubleBody"];
export type Hand = Schemas["HandAnswer"];
export type FeltShots = Schemas["DisagreementList"];
export type LedgerAnswer = Schemas["LedgerAnswer"];
export type Ledger = Schemas["LedgerAnswer.Ledger"];
export type LedgerRack = Schemas["LedgerAnswer.RackLedger"];
export type LedgerEntry = Schemas["LedgerAnswer.LedgerEntry"];
export type LedgerChoice = Schemas["LedgerAnswer.LedgerChoice"];
export type Named = Schemas["LedgerAnswer.Named"];
export type MatchSheet = Schemas["MatchSheet"];
export type SheetFigures = Schemas["MatchSheet.SheetFigures"];
export type SheetCard = Schemas["MatchSheet.SheetCard"];
export type ReachAnswer = Schemas["ReachAnswer"];
export type Reached = Schemas["ReachAnswer.ReachedAnswer"];
export type ReachRequest = Schemas["ReachRequest"];
export type KickAnswer = Schemas["KickAnswer"];
export type KickRequest = Schemas["KickRequest"];
export type QuestionAnswer = Schemas["QuestionAnswer"];
export type QuestionGroup = QuestionAnswer["groups"][number];
export type Alike = Schemas["AlikeAnswer"];
export type KeptQuestions = Schemas["KeptQuestions"];
export type Exercise = Schemas["ExerciseAnswer"];
export type ExerciseList = Schemas["ExerciseList"];
export type LevelList = Schemas["LevelList"];
export type KeptTables = Schemas["KeptTables"];
export type KeptTable = KeptTables["tables"][number];

export type ClipAnswer = Schemas["ClipAnswer"];
export type VoiceList = Schemas["VoiceList"];

export type ToPractise = Schemas["ToPractise"];
export type PlanList = Schemas["PlanList"];
export type Planned = Schemas["PlanList.PlannedAnswer"];
export type BankAnswer = Schemas["BankAnswer"];
export type LinesAnswer = Schemas["LinesAnswer"];
