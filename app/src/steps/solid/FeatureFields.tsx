import { DomeFields } from './fields/DomeFields';
import { ExtrudeFields, MarksFields, RevolveFields } from './fields/ProfileFields';
import type { FieldsProps } from './fields/props';
import { EdgesFields, HolesFields, HollowFields, RepeatFields } from './fields/WorkFields';
import { groundsOf } from './newFeature';

/** Everything that can be said of a feature. */
export function FeatureFields({ job, feature, isNew, box, onChange }: FieldsProps) {
  const grounds = groundsOf(job);
  const props = { job, grounds, isNew, box, onChange: onChange as (feature: never) => void };
  return (
    <div className="flex flex-col gap-2">
      {feature.kind === 'extrude' && <ExtrudeFields {...props} feature={feature} />}
      {feature.kind === 'revolve' && <RevolveFields {...props} feature={feature} />}
      {feature.kind === 'dome' && <DomeFields {...props} feature={feature} />}
      {feature.kind === 'marks' && <MarksFields {...props} feature={feature} />}
      {feature.kind === 'holes' && <HolesFields {...props} feature={feature} />}
      {feature.kind === 'edges' && <EdgesFields {...props} feature={feature} />}
      {feature.kind === 'hollow' && <HollowFields {...props} feature={feature} />}
      {feature.kind === 'repeat' && <RepeatFields {...props} feature={feature} />}
    </div>
  );
}
