// What other rooms may use of this one.
export * from "./ClientHistory";
export * from "./ConsultationPanel";
export * from "./ContraindicationTimeline";
export * from "./Letters";
export * from "./Outcomes";
export * from "./PatchTests";
export * from "./Planned";
export * from "./PreTreatmentCheck";
export * from "./TodaysPlan";
