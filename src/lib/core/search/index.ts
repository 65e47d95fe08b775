/** Finding text by its letters or its sound, and writing other text in its place, with its capitals. */
export { aroundHit, findHits, wantedText, hitText, inCaseOf, replaceHits, type Hit } from './find';
export { querySchema, type Query } from './query';
