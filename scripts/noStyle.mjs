// What stands for a style sheet in tests of components: jsdom lays nothing out.
export default {};
