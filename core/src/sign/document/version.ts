/** The version of the sign document that this release writes. */
export const SIGN_VERSION = 3;
