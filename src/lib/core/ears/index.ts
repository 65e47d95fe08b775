/**
 * Ears: speech models from a folder of the user's own. What an ONNX file says of itself, which kind of model a folder
 * holds and what is wrong with it, and words of what a model has read.
 */
export { planModel, type FamilyId, type FolderFacts, type ModelPlan, type TokenFacts } from './families';
export { readOnnx, type ByteSource, type OnnxFacts } from './onnx';
export { earSettingsSchema, readEarSettings, SETTINGS_FILE, type EarSettings } from './settings';
export { readTokens } from './tokens';
export { wordsOfStretch, type ReadStretch } from './words';
