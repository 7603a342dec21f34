/** The word of a reference that is named as such; listeners' pages show it in their language. */
export const REFERENCE_WORD = 'Reference';
