/** Kept looks: those that ship, a house's own, and the file in which they are taken out and brought in. */
export { keptLookSchema, ownLookSchema, SHIPPED_LOOKS, type KeptLook, type OwnLook } from './kept';
export { formatLooksFile, parseLooksFile } from './file';
