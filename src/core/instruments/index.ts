// Instruments: who can play what. A catalogue as data, and where notes lie under the hand.
export * from "./catalogue";
