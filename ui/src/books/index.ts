// What other rooms may use of this one.
export * from "./SeriesStrip";
export * from "./TakePayment";
