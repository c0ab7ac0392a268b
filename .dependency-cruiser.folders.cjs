/** No circles between folders: what needs each other lies in one. Tests and their help may reach everywhere, and are left out. */
const { options } = require('./.dependency-cruiser.cjs');

module.exports = {
  forbidden: [{ name: 'no-circles-between-folders', severity: 'error', scope: 'folder', from: {}, to: { circular: true } }],
  options: { ...options, exclude: { path: '(\\.test\\.ts$|^tests/|^core/testing/|^tools/)' } },
};
