// Loaded into every part that a start script runs: when the script is gone, however it went, the part goes too.
const parent = process.ppid;
setInterval(() => {
  if (process.ppid !== parent) process.kill(process.pid, 'SIGTERM');
}, 500).unref();
