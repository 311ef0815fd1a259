"""Formulas as files write them, and ours: translated here, in both directions.

``OpenFormulaDialect`` is that of OpenDocument (ISO/IEC 26300-4, OpenFormula), ``OpenXmlDialect``
that of Office Open XML (ISO/IEC 29500-1, 18.17).
"""

from dreieck.files.formulas.dialect import Dialect, FormulaReader, FormulaWriter
from dreieck.files.formulas.open_formula import OpenFormulaDialect
from dreieck.files.formulas.open_xml import OpenXmlDialect, Table

__all__ = [
    "Dialect",
    "FormulaReader",
    "FormulaWriter",
    "OpenFormulaDialect",
    "OpenXmlDialect",
    "Table",
]
