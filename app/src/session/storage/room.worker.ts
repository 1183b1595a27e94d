import { type RoomFile, roomIn } from './roomOf';

/** Where the reserve lies in the browser's private file system, and the lock of whoever looks at it. */
const NAME = 'steady-moth-room';

/** Answers how many bytes are asked for with the room that there is for them; null where this browser cannot tell. */
addEventListener('message', async ({ data: bytes }: MessageEvent<number>) => {
  postMessage(await navigator.locks.request(NAME, () => look(bytes)).catch(() => null));
});

/** What only workers have of it. */
interface OpenedAtOnce {
  createSyncAccessHandle(): Promise<RoomFile & { close(): void }>;
}

async function look(bytes: number) {
  const folder = await navigator.storage.getDirectory();
  const handle = await folder.getFileHandle(NAME, { create: true });
  const file = await (handle as unknown as OpenedAtOnce).createSyncAccessHandle();
  try {
    return roomIn(file, bytes);
  } finally {
    file.close();
  }
}
