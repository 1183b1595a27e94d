import { MOST } from '../../schema/bounds';
import type { BodyCheck, Feature, Id, Material, Part } from '../../sketch';
import type { JobAction } from '../document/history';

const onPart = (label: string, change: (part: Part) => void): JobAction => ({
  label,
  recipe: ({ part }) => change(part),
});

/** Puts a feature last on the list. */
export const addFeature = (feature: Feature): JobAction =>
  onPart(`add ${feature.name.toLowerCase()}`, (part) => {
    if (part.features.length < MOST.features) part.features.push(feature);
  });

/** Says a feature anew: it keeps its name in the document and its place on the list. */
export const changeFeature = (feature: Feature): JobAction =>
  onPart(`change ${feature.name.toLowerCase()}`, (part) => {
    const at = part.features.findIndex((f) => f.id === feature.id);
    if (at >= 0) part.features[at] = feature;
  });

export const dropFeature = (id: Id): JobAction =>
  onPart('take a feature away', (part) => {
    part.features = part.features.filter((f) => f.id !== id);
  });

/** Moves a feature along the list. */
export const moveFeature = (id: Id, by: 1 | -1): JobAction =>
  onPart('move a feature', (part) => {
    const at = part.features.findIndex((f) => f.id === id);
    const to = at + by;
    if (at < 0 || to < 0 || to >= part.features.length) return;
    const [own] = part.features.splice(at, 1);
    part.features.splice(to, 0, own!);
  });

export const setMaterial = (material: Material | null): JobAction =>
  onPart('choose a material', (part) => {
    part.material = material;
  });

export const addBodyCheck = (check: BodyCheck): JobAction =>
  onPart('check a size of the body', (part) => {
    if (part.bodyChecks.length < MOST.spotChecks) part.bodyChecks.push(check);
  });

export const dropBodyCheck = (id: Id): JobAction =>
  onPart('take a check away', (part) => {
    part.bodyChecks = part.bodyChecks.filter((c) => c.id !== id);
  });

/** Hands the body over larger or smaller than it is; null: as it is. */
export const setBodyFactor = (factor: Part['bodyFactor']): JobAction =>
  onPart('set a factor', (part) => {
    part.bodyFactor = factor;
  });
