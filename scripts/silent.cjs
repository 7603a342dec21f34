module.exports = () => () => {};
