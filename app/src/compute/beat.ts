/** What is sent to a worker to hear whether it is there, and what it sends back. */
export const BEAT = 'beat';
