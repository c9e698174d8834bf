"""The core with every sentence of `said` put another way, for whoever wants to see that nothing but what
is shown hangs on one. Run as a program it says how the golden visits answer then."""

import ast
import importlib.abc
import importlib.util
import json
import sys
from collections.abc import Sequence
from importlib.machinery import ModuleSpec, PathFinder, SourceFileLoader
from types import ModuleType
from typing import Any

SAID = "oilward_core.said"
MARK = "§"


class _PutAnotherWay(ast.NodeTransformer):
    """Every text gets a mark in front; how a number is written, and docstrings, stay."""

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if isinstance(node.value, str) and node.value.strip():
            return ast.copy_location(ast.Constant(MARK + node.value), node)
        return node

    def visit_FormattedValue(self, node: ast.FormattedValue) -> ast.AST:
        node.value = self.visit(node.value)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        """What a function is told, a unit for one, is a code."""
        told = {id(one) for one in node.args if isinstance(one, ast.Constant)}
        node.func = self.visit(node.func)
        node.args = [one if id(one) in told else self.visit(one) for one in node.args]
        for named in node.keywords:
            named.value = self.visit(named.value)
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        return node  # with codes alone

    def visit_Dict(self, node: ast.Dict) -> ast.AST:
        node.values = [self.visit(one) for one in node.values]
        return node

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        return node if isinstance(node.value, ast.Constant) else self.generic_visit(node)

    def visit_Assign(self, node: ast.Assign) -> ast.AST:
        names = [one.id for one in node.targets if isinstance(one, ast.Name)]
        return node if names == ["__all__"] else self.generic_visit(node)


class _Loader(SourceFileLoader):
    def source_to_code(self, data: Any, path: Any, **more: Any) -> Any:  # type: ignore[override]
        tree = _PutAnotherWay().visit(ast.parse(data))
        return compile(ast.fix_missing_locations(tree), path, "exec")

    def get_code(self, fullname: str) -> Any:
        # never the compiled file of the sentences as they are
        path = self.get_filename(fullname)
        return self.source_to_code(self.get_data(path), path)


class _Finder(importlib.abc.MetaPathFinder):
    def find_spec(
        self, name: str, path: Sequence[str] | None = None, target: ModuleType | None = None
    ) -> ModuleSpec | None:
        if name != SAID and not name.startswith(f"{SAID}."):
            return None
        found = PathFinder.find_spec(name, path)
        if found is None or found.origin is None:
            return found
        return importlib.util.spec_from_file_location(
            name,
            found.origin,
            loader=_Loader(name, found.origin),
            submodule_search_locations=found.submodule_search_locations,
        )


def unmarked(answer: Any) -> Any:
    """An answer with the marks taken out again; what begins a sentence may have lost its capital."""
    if isinstance(answer, dict):
        return {key: unmarked(one) for key, one in answer.items()}
    if isinstance(answer, list):
        return [unmarked(one) for one in answer]
    return answer.replace(MARK, "").casefold() if isinstance(answer, str) else answer


if __name__ == "__main__":
    sys.meta_path.insert(0, _Finder())
    from tests.golden_visits import GOLDEN, in_words_of_then

    print(
        json.dumps(
            {
                visit.name: [in_words_of_then(visit.answer(one.after)) for one in visit.answers]
                for visit in GOLDEN
            }
        )
    )
