/** Typefaces: those that ship, which of their files is meant, and which of them draws what another one lacks. */
export { DEFAULT_FACE_ID, faceSchema, findFace, SHIPPED_FACES, type Face, type FaceCharacter } from './faces';
export { fontKey, fontKeyOf, nearestFile, parseFontKey, type FontFile } from './files';
export { standInsFor } from './stand-ins';
