// What other rooms may use of this one.
export * from "./PriceQuestion";
export * from "./SeriesStrip";
export * from "./TakePayment";
