/** A plan that cannot be made, in words for the person who asked for it. */
export class PlanError extends Error {}
