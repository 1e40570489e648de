// Names from data are never names of the language: a column "constructor" finds nothing in a plain object's prototype.
import ts from "typescript";

const isText = (type) =>
  type.isUnion() ? type.types.some(isText) : (type.flags & ts.TypeFlags.String) !== 0;

const isIndexed = (checker, type) => {
  if (type.isUnion()) return type.types.some((one) => isIndexed(checker, one));
  return checker.getIndexInfoOfType(type, ts.IndexKind.String) !== undefined;
};

export const dataNames = {
  meta: {
    type: "problem",
    schema: [],
    docs: {
      description: "What is looked up by a text of any origin stands in a Map, or is looked up by ownOf().",
    },
  },
  create(context) {
    const { parserServices } = context.sourceCode;
    const checker = parserServices.program.getTypeChecker();
    const typeOf = (node) => checker.getTypeAtLocation(parserServices.esTreeNodeToTSNodeMap.get(node));
    const message =
      "A text of any origin may be a name of the language (constructor, __proto__): use a Map, or ownOf() of core/own.ts.";
    return {
      "MemberExpression[computed=true]"(node) {
        if (node.property.type === "Literal") return;
        if (isText(typeOf(node.property)) && isIndexed(checker, typeOf(node.object)))
          context.report({ node, message });
      },
      "BinaryExpression[operator='in']"(node) {
        if (node.left.type !== "Literal" && isText(typeOf(node.left))) context.report({ node, message });
      },
    };
  },
};
