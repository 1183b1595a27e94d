/** What is sent to a worker to hear whether it is there, and what it sends back. */
export const BEAT = 'beat';
/** Under this name a worker tells which lock it holds as long as it lives. */
export const LIVES = 'lives';
