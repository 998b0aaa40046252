// A lint rule for the core, which has no clock of its own: `new Date()` and `Date()` read the machine's. What is a property, as `Date.now`,
// .oxlintrc.json bans by name.

const message = "The core has no clock: take the time as an argument.";
const isDate = ({ type, name }) => type === "Identifier" && name === "Date";

export default {
  meta: { name: "clockless" },
  rules: {
    "no-date": {
      create: (context) => ({
        NewExpression: (node) => void (isDate(node.callee) && node.arguments.length === 0 && context.report({ node, message })),
        CallExpression: (node) => void (isDate(node.callee) && context.report({ node, message })),
      }),
    },
  },
};
