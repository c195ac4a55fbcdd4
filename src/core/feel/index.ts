// Feel: how a dance moves. In: a performance as it is written, and a groove. Out: the performance as it is danced.
export * from "./groove";
