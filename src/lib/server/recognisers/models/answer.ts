/** A speech model as the API tells of it. */
import type { ModelEar } from './recogniser';

export const earAnswer = ({ id, folder, name, languages, looked: { settings, sizeBytes, plan }, tried }: ModelEar) => ({
  ...{ id, folder, name, languages, sizeBytes },
  ...(settings.note !== undefined && { note: settings.note }),
  ...(plan.ok && {
    family: plan.value.family,
    writes: plan.value.writes,
    hearsBy: plan.value.hearsBy,
    can: plan.value.can
  }),
  ...stateOf(plan, tried)
});

/** What is wrong with the folder is known before it is tried. */
function stateOf(plan: ModelEar['looked']['plan'], tried: ModelEar['tried']) {
  if (!plan.ok) return { state: 'unusable', reason: plan.problem };
  if (tried === null) return { state: 'trying' };
  return tried.ok ? { state: 'ready', loadMs: Math.round(tried.loadMs) } : { state: 'unusable', reason: tried.reason };
}
