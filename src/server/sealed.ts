declare const OF: unique symbol;
/** A value as text on its way to a page: text passes through thread and answer at once, however much it holds. */
export type Sealed<T> = string & { readonly [OF]: T };
export const sealed = <T>(value: T): Sealed<T> => JSON.stringify(value) as Sealed<T>;
export const opened = <T>(text: Sealed<T>): T => JSON.parse(text) as T;
