export { aroundHit, findHits, hitText, inCaseOf, replaceHits, type Hit } from './find';
export { querySchema, type Query } from './query';
