import { Slider } from 'radix-ui';

/** A slider in whole percent or steps; what is tried while it moves is told apart from where it is let go. */
export function Range<Ends extends [number] | [number, number]>({
  labels,
  value,
  min = 0,
  max = 100,
  step = 1,
  apart = 0,
  disabled = false,
  onTry,
  onSet,
}: {
  /** One for each thumb. */
  labels: readonly string[];
  value: Ends;
  min?: number;
  max?: number;
  step?: number;
  apart?: number;
  disabled?: boolean;
  onTry(value: Ends): void;
  onSet(value: Ends): void;
}) {
  return (
    <Slider.Root
      className="relative my-1.5 flex h-4 w-full grow items-center data-[disabled]:opacity-50"
      min={min}
      max={max}
      step={step}
      minStepsBetweenThumbs={apart}
      disabled={disabled}
      value={[...value]}
      onValueChange={(all) => onTry(all as Ends)}
      onValueCommit={(all) => onSet(all as Ends)}
    >
      <Slider.Track className="relative h-1 grow rounded bg-line">
        <Slider.Range className="absolute h-full rounded bg-ink3" />
      </Slider.Track>
      {labels.map((label) => (
        <Slider.Thumb
          key={label}
          aria-label={label}
          className="block h-4 w-4 rounded-full border-2 border-paper bg-rust"
        />
      ))}
    </Slider.Root>
  );
}
