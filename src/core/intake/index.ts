// Intake: any file in. In: a name and bytes from anywhere, treated as hostile. Out: tunes with remarks and choices, or
// what was refused and where.
export * from "./read";
