/** How far something long is; `total` is null until it is known. */
export type Progress = (done: number, total: number | null) => void;

export const silent: Progress = () => undefined;
