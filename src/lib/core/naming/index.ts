/** What files are called that leave the house. */
export { inThreeLetters } from './iso-639';
export {
  LANGUAGE_FORMS,
  NAME_PARTS,
  nameFiles,
  namingSchema,
  slug,
  USUAL_NAMING,
  type NamedFile,
  type NamePart,
  type Naming
} from './names';
