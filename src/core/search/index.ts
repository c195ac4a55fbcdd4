// Search: the one dynamic program behind every judgement. In: steps, the states open at each, locks, named limits
// (must) and named costs (rather). Out: the cheapest path, what each cost added to it and every runner-up's exact
// price; or the conflict, where the limits leave no path: which, where, and what to loosen.
export * from "./model";
export { costsAt, priceOf } from "./price";
export { ConflictError, isConflict, solve, solved } from "./solve";
