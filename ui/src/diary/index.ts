// What other rooms may use of this one.
export * from "./MoveAppointment";
export * from "./roster/ClientHours";
export * from "./series/ClientSeries";
export * from "./series/SameAgainLink";
export * from "./VisitMarks";
