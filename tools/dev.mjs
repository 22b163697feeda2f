// Server and web app from source, both reloading on change. The page is at http://127.0.0.1:4641.
import concurrently from 'concurrently';

const { result } = concurrently(
  [
    {
      name: 'server',
      command: 'tsx watch server/src/main.ts --demo',
      env: {
        LUCKY_NEEDLE_DATA: process.env.LUCKY_NEEDLE_DATA ?? 'data-demo',
        LUCKY_NEEDLE_DEV_ORIGIN: 'http://127.0.0.1:4641',
      },
    },
    { name: 'web', command: 'vite --config web/vite.config.ts' },
  ],
  { killOthersOn: ['failure', 'success'] },
);
await result.catch(() => {});
