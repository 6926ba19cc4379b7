/** Loaded before a program that a script starts: ends it when the script is gone, even if that was killed. */
process.on('disconnect', () => process.kill(process.pid, 'SIGTERM'))
