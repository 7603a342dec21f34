/** How sure somebody is beforehand that the chains can be told apart. */
export const TOLD_APART = ['surely', 'perhaps', 'hardly'] as const;
