/** Tests of both sides together that are compared at once. */
export const MOST_COMPARED = 24;
