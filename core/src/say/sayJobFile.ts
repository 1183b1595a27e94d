import type { JobFileFault } from '../format';

/** Why a file could not be opened as a job. */
export function jobFileSentence(fault: JobFileFault): string {
  switch (fault.reason) {
    case 'empty':
      return 'This file is empty (0 bytes). Was it copied to the end?';
    case 'not-a-job-file':
      return 'This is not a Steady Moth job file.';
    case 'changed':
      return 'This job file was changed or damaged after it was saved: its seal does not fit. Ask for it again, or copy it once more.';
    case 'too-large':
      return 'This job file would unpack to more than can be held here. It is not opened.';
    case 'picture-missing':
      return 'A picture is missing from this job file. Save the job again where it was made.';
    case 'picture-refused':
      return 'A picture in this job file is damaged, or of a kind that is not taken. Save the job again where it was made.';
    case 'not-a-job':
      return 'This file does not hold a Steady Moth job.';
    case 'from-the-future':
      return 'This job was saved by a newer Steady Moth. Update this one, then open it again.';
    case 'bad-field':
      return `Something in this job does not hold together, at ${fault.place}. It is not opened.`;
  }
}
