"""The functions: each example, and what the standard says of edges and odd arguments."""

import math
import re
import tomllib
from datetime import date
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import result, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.functions import EXAMPLE_SHEET, every, find
from dreieck.core.functions.described import functions_of
from dreieck.core.functions.registry import at_once
from dreieck.core.grid import Cell
from dreieck.core.values import Error

SMALL_GROUP = """
ABS ACOS AND ASIN ATAN ATAN2 AVERAGE AVERAGEIF CHOOSE COLUMNS COS COUNT COUNTA COUNTBLANK
COUNTIF DATE DAVERAGE DAY DCOUNT DCOUNTA DDB DEGREES DGET DMAX DMIN DPRODUCT DSTDEV DSTDEVP
DSUM DVAR DVARP EVEN EXACT EXP FACT FALSE FIND FV HLOOKUP HOUR IF INDEX INT IRR ISBLANK ISERR
ISERROR ISLOGICAL ISNA ISNONTEXT ISNUMBER ISTEXT LEFT LEN LN LOG LOG10 LOWER MATCH MAX MID MIN
MINUTE MOD MONTH N NA NOT NOW NPER NPV ODD OR PI PMT POWER PRODUCT PROPER PV RADIANS RATE
REPLACE REPT RIGHT ROUND ROWS SECOND SIN SLN SQRT STDEV STDEVP SUBSTITUTE SUM SUMIF SYD T TAN
TIME TODAY TRIM TRUE TRUNC UPPER VALUE VAR VARP VLOOKUP WEEKDAY YEAR
"""
LARGER_GROUPS = """
AVERAGEIFS COUNTIFS SUMIFS IFERROR IFNA MEDIAN LARGE SMALL RANK SUMPRODUCT SUMSQ ROUNDUP
ROUNDDOWN CEILING FLOOR QUOTIENT SIGN MODE PERMUT COMBIN COLUMN ROW ADDRESS OFFSET INDIRECT
SEARCH CONCATENATE XOR TEXT FIXED CHAR CODE CLEAN UNICODE UNICHAR DATEVALUE TIMEVALUE EDATE
EOMONTH NETWORKDAYS WORKDAY WEEKNUM ISOWEEKNUM DAYS DATEDIF DAYS360 YEARFRAC LOOKUP SUBTOTAL
MROUND GCD LCM ISEVEN ISODD ISREF ISFORMULA TYPE SHEET SHEETS FORMULA CORREL COVAR SLOPE
INTERCEPT RSQ FORECAST PERCENTILE QUARTILE PERCENTRANK STANDARDIZE SKEW KURT GEOMEAN HARMEAN
TRIMMEAN AVEDEV DEVSQ AVERAGEA MAXA MINA SUMX2MY2 SUMX2PY2 SUMXMY2 NORMDIST NORMINV NORMSDIST
NORMSINV BINOMDIST POISSON CONFIDENCE IPMT PPMT CUMIPMT CUMPRINC EFFECT NOMINAL MIRR XIRR XNPV
DB VDB SINH COSH TANH ASINH ACOSH ATANH COT MULTINOMIAL CONVERT AREAS RAND RANDBETWEEN
ERROR.TYPE NUMBERVALUE PEARSON STEYX TRANSPOSE MMULT MDETERM MINVERSE FREQUENCY LINEST LOGEST
TREND GROWTH
"""
COMMON = """
CHOOSECOLS CHOOSEROWS DROP FILTER HSTACK LET SEQUENCE SORT SORTBY TAKE TEXTSPLIT TOCOL TOROW UNIQUE
VSTACK
AGGREGATE BINOM.DIST CEILING.MATH CONCAT CONFIDENCE.NORM CONFIDENCE.T COVARIANCE.P COVARIANCE.S
FAN FEED FLOOR.MATH HERE IFS MAXIFS MINIFS MODE.SNGL NETWORKDAYS.INTL NORM.DIST NORM.INV
NORM.S.DIST
NORM.S.INV PERCENTILE.EXC PERCENTILE.INC PERCENTRANK.EXC PERCENTRANK.INC POISSON.DIST
QUARTILE.EXC QUARTILE.INC RANK.AVG RANK.EQ STDEV.P STDEV.S SWITCH TEXTAFTER TEXTBEFORE TEXTJOIN
VAR.P VAR.S WORKDAY.INTL XLOOKUP XMATCH
"""


def test_all_functions_asked_for_are_there():
    asked_for = sorted(f"{SMALL_GROUP} {LARGER_GROUPS} {COMMON}".split())
    assert [each.name for each in every()] == asked_for
    assert {each.name for each in every() if not each.section} == set(COMMON.split())


def test_the_table_of_the_standards_groups_tells_what_is_here():
    text = Path("docs/formulas.md").read_text()
    rows = re.findall(r"^\| (Small|Medium), (here|not here) \| (.*) \|$", text, re.MULTILINE)
    told = {(group, is_here): set(names.split()) for group, is_here, names in rows}
    here = {each.name for each in every()}
    assert told["Small", "here"] == set(SMALL_GROUP.split()) and "Small, not here" not in text
    assert told["Medium", "here"] <= here and not told["Medium", "not here"] & here
    asked_for = set(LARGER_GROUPS.split())
    assert asked_for - told["Medium", "here"] == BEYOND_MEDIUM


BEYOND_MEDIUM = {
    "AVERAGEIFS", "COUNTIFS", "SUMIFS", "IFERROR", "IFNA", "XOR", "DATEDIF", "DAYS", "SHEET",
    "SHEETS", "FORMULA", "ISFORMULA", "ISREF", "UNICHAR", "UNICODE", "XNPV", "AVERAGEA", "MAXA",
    "MINA", "ERROR.TYPE", "NUMBERVALUE", "FREQUENCY",
}  # fmt: skip


@pytest.mark.parametrize("function", every(), ids=lambda function: function.name)
def test_each_record_is_complete_and_its_examples_give_what_they_say(function):
    assert len(function.examples) == 2
    for formula, value in function.examples:
        found = result(formula, **EXAMPLE_SHEET)
        found = found.code if isinstance(found, Error) else found
        assert found == (pytest.approx(value) if isinstance(value, float) else value)
        assert f"{function.name}(" in formula
    assert function.purpose.endswith(".") and function.words
    assert all(parameter.purpose for parameter in function.parameters)


def test_what_a_family_tells_and_what_it_computes_belong_together():
    family = "dreieck.core.functions.families.draws"
    with pytest.raises(ValueError, match="draws: told or computed alone: RANDBETWEEN"):
        functions_of(family, {"RAND": float}, {})
    for name in ("SUM", "SUMM"):
        with pytest.raises(ValueError, match=f"array forms: {name}"):
            at_once(name)


COLUMN = {
    "A1": "1.5", "A2": "2", "A3": "kg", "A4": "'7", "A5": "TRUE", "A7": "5", "A8": "Kestrel",
    "A9": "2026-03-01", "B1": "=1/0", "B2": "=NA()", "C1": "10", "C2": "20", "C3": "30",
    "C4": "40", "D1": "1", "D2": "3", "D3": "5", "D4": "7", "E1": "a", "E2": "c", "E3": "e",
}  # fmt: skip


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        # counting and criteria
        ("=COUNT(A1:A9)", 4.0),
        ("=COUNTA(A1:B9)", 10.0),
        ("=COUNTBLANK(A1:A9)", 1.0),
        ('=COUNTIF(A1:A9,"<>kg")', 8.0),
        ('=COUNTIF(A1:A9,"kg")', 1.0),
        ('=COUNTIF(A1:A9,"K*")', 2.0),
        ('=COUNTIF(A1:A9,"?g")', 1.0),
        ('=COUNTIF(A1:A9,">=2")', 3.0),
        ('=COUNTIF(A1:A9,"=")', 1.0),
        ('=COUNTIF(A1:A9,"")', 1.0),
        ('=COUNTIF(A1:A9,"<>")', 8.0),
        ('=COUNTIF(A1:A9,">2026-02-01")', 1.0),
        ("=COUNTIF(A1:A9,DATE(2026,3,1))", 1.0),
        ("=COUNTIF(A1:A9,TRUE)", 1.0),
        ("=COUNTIF(A1:A9,A6)", 0.0),
        ('=COUNTIF(B1:B2,"#N/A")', 1.0),
        ('=COUNTIF(A:A,"5")', 1.0),
        ('=COUNTIF(E1:E3,">b")', 2.0),
        ('=SUMIF(D1:D4,">2",C1)', 90.0),
        ('=SUMIF(D1:D4,">2")', 15.0),
        ('=SUMIF(D1:D4,">2",B1:B4)', "#N/A"),
        ('=AVERAGEIF(D1:D4,">9")', "#DIV/0!"),
        ('=COUNTIFS(D1:D4,">1",C1:C4,"<40")', 2.0),
        ('=COUNTIFS(D1:D9,"")', 5.0),
        ('=SUMIFS(C1:C4,D1:D4,">1",C1:C4,"<>30")', 60.0),
        ('=SUMIFS(C1:C4,D1:D3,">1")', "#VALUE!"),
        ('=AVERAGEIFS(C1:C4,D1:D4,">9")', "#DIV/0!"),
        # sums and spread
        ("=SUM(A1:A9)", 46090.5),
        ('=SUM(A1:A2,"2",TRUE)', 6.5),
        ("=SUM(B1:B2)", "#DIV/0!"),
        ("=PRODUCT(A3:A6)", 0.0),
        ("=SUMPRODUCT(C1:C4,D1:D4)", 500.0),
        ("=SUMPRODUCT((C1:C4>10)*(D1:D4<7)*C1:C4)", 50.0),
        ("=SUMPRODUCT(C1:C4,D1:D3)", "#VALUE!"),
        ("=SUMPRODUCT(A1:A5)", 3.5),
        ("=SUMPRODUCT(B1:B3,C1:C3)", "#DIV/0!"),
        ("=SUMPRODUCT(F1:F2,B1:B2)", "#DIV/0!"),
        ("=SUMPRODUCT(ABS(C1:C4-25))", 40.0),
        ("=SUMPRODUCT(IF(D1:D4>2,C1:C4,0))", 90.0),
        ('=SUMPRODUCT((LEFT(E1:E3)="c")*C1:C3)', 20.0),
        ("=SUMPRODUCT(IFERROR(B1:B2,5))", 10.0),
        ("=SUMPRODUCT(ROW(C1:C4)*C1:C4)", 300.0),
        ("=SUMPRODUCT(CHOOSE({1,2},C1:C2,D1:D2))", 34.0),
        ("=SUMPRODUCT(ABS(C1:C4)*D1:D3)", "#N/A"),
        # references that cross, or stand together
        ("=SUM(A1:C2 C1:D4)", 30.0),
        ("=SUM(A1:C2!C1:D4!C2:D2)", 20.0),
        ("=C1:C4 A3:D3", 30.0),
        ("=C1 D1", "#NULL!"),
        ("=SUM(C1:C2~D1:D2)", 34.0),
        ("=COUNT(C1:C2~A3~D1)", 3.0),
        ("=SUM(C1:D2~C2:D4 C1:C3)", 84.0),
        ("=SUM((C1:C4~D1:D4) C2:D2)", 23.0),
        ("=AREAS((C1:C4~D1:D4) C2:D2)", 2.0),
        ("=C1~D1", "#VALUE!"),
        ("=ROWS(C1~D1)", "#VALUE!"),
        ("=SUMPRODUCT(C1:C2~D1:D2)", "#VALUE!"),
        ("=SUM(ROW(C1)!C1)", "#VALUE!"),
        ("=SUM(C1:C2!IF(TRUE,C2:C4))", 20.0),
        ("=CONCATENATE(C1:D2)", "101203"),
        ("=NPV(0.5,C1:D2)", 10 / 1.5 + 1 / 2.25 + 20 / 1.5**3 + 3 / 1.5**4),
        ("=NPV(0.5,{10,1;20,3})", 10 / 1.5 + 1 / 2.25 + 20 / 1.5**3 + 3 / 1.5**4),
        ("=STDEV(C1)", "#DIV/0!"),
        ("=VARP(C1)", 0.0),
        ("=MODE(C1:C4)", "#N/A"),
        ("=MEDIAN(C1:C3)", 20.0),
        ("=LARGE(C1:C4,5)", "#NUM!"),
        ("=RANK(20,C1:C4)", 3.0),
        ("=RANK(20,C1:C4,1)", 2.0),
        ("=RANK(21,C1:C4)", "#N/A"),
        # rounding and arithmetic
        ("=ROUND(2.345,2)", 2.35),
        ("=ROUND(-1.5)", -2.0),
        ("=ROUND(1250,-2)", 1300.0),
        ("=ROUNDUP(-1.01)", -2.0),
        ("=ROUNDDOWN(-1.99)", -1.0),
        ("=TRUNC(123.456,-1)", 120.0),
        ("=INT(2.9)", 2.0),
        ("=CEILING(-2.5,-1)", -2.0),
        ("=CEILING(-2.5,-1,1)", -3.0),
        ("=CEILING(2.5)", 3.0),
        ("=FLOOR(-2.5,-1)", -3.0),
        ("=FLOOR(-2.5,-1,1)", -2.0),
        ("=FLOOR(2.5,-1)", "#NUM!"),
        ("=CEILING(0.3,0.1)", 0.3),
        ("=EVEN(-1)", -2.0),
        ("=ODD(2)", 3.0),
        ("=ODD(0)", 1.0),
        ("=MOD(7,-3)", -2.0),
        ("=MOD(5.5,0)", "#DIV/0!"),
        ("=LOG(0)", "#NUM!"),
        ("=LOG(100)", 2.0),
        ("=ATAN2(0,1)", math.pi / 2),
        ("=FACT(170.9)", float(math.factorial(170))),
        ("=FACT(171)", "#NUM!"),
        ("=COMBIN(1000,500)", float(math.comb(1000, 500))),
        ("=COMBIN(5.9,2.9)", 10.0),
        ("=PERMUT(3,0)", 1.0),
        ("=GCD(12,18.9)", 6.0),
        ("=GCD(-1)", "#NUM!"),
        ("=LCM(C1:C3)", 60.0),
        ("=MROUND(-7,-5)", -5.0),
        ("=MROUND(7.5,5)", 10.0),
        ("=MROUND(7,-5)", "#NUM!"),
        ("=ISEVEN(-2.5)", True),
        ("=ISODD(3.9)", True),
        ("=COT(0)", "#DIV/0!"),
        ("=ACOSH(0)", "#NUM!"),
        ("=ATANH(1)", "#NUM!"),
        ("=COMBIN(2,3)", "#NUM!"),
        ("=POWER(-8,1/3)", "#NUM!"),
        ("=EXP(1000)", "#NUM!"),
        # logic
        ("=IF(A1>1,A2,1/0)", 2.0),
        ("=IF(A1>2,1)", False),
        ("=IF(A1>1,)", 0.0),
        ("=SUM(IF(TRUE,A1:A2,A3))", 3.5),
        ("=AND(A1:A5)", True),
        ("=AND(A3)", "#VALUE!"),
        ("=OR(A6,FALSE)", False),
        ("=IFS(A1>2,1/0,A1>1,A2)", 2.0),
        ("=IFS(A1>2,1)", "#N/A"),
        ("=IFS(A1>2)", "#VALUE!"),
        ("=IFS(B1,1)", "#DIV/0!"),
        ("=SUM(IFS(TRUE,A1:A2))", 3.5),
        ('=SWITCH(A3,"KG",1,2)', 1.0),
        ("=SWITCH(A1,1,1/0,1.5,A2)", 2.0),
        ("=SWITCH(9,1,2)", "#N/A"),
        ('=MAXIFS(C1:C4,D1:D4,"<6")', 30.0),
        ('=MINIFS(C1:C4,D1:D4,">9")', 0.0),
        ('=NOT("x")', "#VALUE!"),
        ("=IFERROR(B2,A1)", 1.5),
        ("=IFNA(B1,A1)", "#DIV/0!"),
        ("=IF(B1,1,2)", "#DIV/0!"),
        # what a value is
        ("=ISBLANK(A6)", True),
        ('=ISBLANK("")', False),
        ("=ISNUMBER(A4)", False),
        ("=ISERR(B2)", False),
        ("=ISTEXT(A6)", False),
        ("=ISNONTEXT(A6)", True),
        ("=N(A3)", 0.0),
        ("=N(B2)", "#N/A"),
        ("=T(A3)", "kg"),
        ("=TYPE(A1)+TYPE(A3)+TYPE(A5)+TYPE(B1)+TYPE(A1:A2)", 87.0),
        ("=ISREF(A1:A2~C1)", True),
        ("=ISREF(OFFSET(A1,-1,0))", False),
        ("=ISFORMULA(B1)", True),
        ("=FORMULA(B1)", "=1/0"),
        ("=FORMULA(A1)", "#N/A"),
        ("=ISFORMULA(1)", "#VALUE!"),
        # text
        ('=LEFT("ab",9)', "ab"),
        ('=LEFT("ab",-1)', "#VALUE!"),
        ('=RIGHT("abc",0)', ""),
        ('=MID("abc",4,1)', ""),
        ('=MID("abc",0,1)', "#VALUE!"),
        ('=FIND("b","abcb",3)', 4.0),
        ('=FIND("B","abc")', "#VALUE!"),
        ('=SEARCH("B","abc")', 2.0),
        ('=SUBSTITUTE("aXbXc","X","-",2)', "aXb-c"),
        ('=REPLACE("abc",2,0,"-")', "a-bc"),
        ('=LEN(A6)', 0.0),
        ('=PROPER("o\'neill 2nd")', "O'Neill 2Nd"),
        ("=CONCATENATE(A1,A6,TRUE)", "1.5TRUE"),
        ('=TEXTJOIN("-",TRUE,E1:E3,A6,"z")', "a-c-e-z"),
        ('=TEXTJOIN("-",FALSE,"",A1)', "-1.5"),
        ("=CONCAT(C1:D2)", "101203"),
        ("=CONCAT(B1:B2)", "#DIV/0!"),
        ("=CHAR(128)", "€"),
        ("=CHAR(129)", "\x81"),
        ("=CODE(CHAR(129))", 129.0),
        ("=CODE(UNICHAR(937))", "#VALUE!"),
        ("=UNICHAR(55296)", "#VALUE!"),
        ('=CODE("")', "#VALUE!"),
        ('=VALUE("x")', "#VALUE!"),
        ('=VALUE("1/2/2026")', "#VALUE!"),
        ('=VALUE("2026-03-01")', 46082.0),
        ('=REPT("x",200000)', "#VALUE!"),
        # dates
        ("=DATE(2026,13,1)", 46388.0),
        ("=DATE(2026,3,0)", 46081.0),
        ("=DATE(2024,2,29)", 45351.0),
        ("=DATE(10000,1,1)", "#NUM!"),
        ('=DAY("2026-03-31")', 31.0),
        ('=MONTH(A6)', 12.0),
        ('=HOUR("23:59:59")', 23.0),
        ("=SECOND(TIME(0,0,59.6))", 59.0),
        ("=MINUTE(1.5)", 0.0),
        ('=WEEKDAY("2026-03-01")', 1.0),
        ('=WEEKDAY("2026-03-01",3)', 6.0),
        ('=WEEKDAY("2026-03-01",11)', 7.0),
        ('=WEEKDAY("2026-03-01",14)', 4.0),
        ('=WEEKDAY("2026-03-01",17)', 1.0),
        ('=WEEKDAY("2026-03-01",4)', "#NUM!"),
        ('="2026-03-01"+1', 46083.0),
        # lookups
        ("=MATCH(25,C1:C4)", 2.0),
        ("=MATCH(5,C1:C4)", "#N/A"),
        ("=MATCH(99,C1:C4,1)", 4.0),
        ("=MATCH(25,C1:C4,0)", "#N/A"),
        ('=MATCH("C",E1:E3,0)', 2.0),
        ('=MATCH("d*",E1:E3,0)', "#N/A"),
        ("=MATCH(25,C1:D4,0)", "#N/A"),
        ("=VLOOKUP(25,C1:D4,2)", 3.0),
        ("=VLOOKUP(25,C1:D4,2,FALSE)", "#N/A"),
        ("=VLOOKUP(20,C1:D4,3)", "#REF!"),
        ("=VLOOKUP(20,C1:D4,0)", "#VALUE!"),
        ("=HLOOKUP(10,C1:D4,4,FALSE)", 40.0),
        ("=INDEX(C1:D4,2,2)", 3.0),
        ("=SUM(INDEX(C1:D4,0,1))", 100.0),
        ("=INDEX(C1:C4,3)", 30.0),
        ("=INDEX(C1:E1,3)", "a"),
        ("=INDEX(C1:D4,5,1)", "#REF!"),
        ("=CHOOSE(3,1,2)", "#VALUE!"),
        ("=SUM(CHOOSE(2,A1,C1:C4))", 100.0),
        ("=SUM(OFFSET(C1,1,0,2,1))", 50.0),
        ("=OFFSET(C1,-1,0)", "#REF!"),
        ('=SUM(INDIRECT("C1:C"&2))', 30.0),
        ('=INDIRECT("nowhere")', "#REF!"),
        ("=ROW()", 99.0),
        ("=COLUMN(C5:F9)", 3.0),
        ('=ADDRESS(5,3,4,,"Week 1")', "'Week 1'!R[5]C[3]"),
        ("=ADDRESS(5,3,3,FALSE)", "R[5]C3"),
        ('=INDIRECT("R2C3",FALSE)', 20.0),
        ('=INDIRECT("R[-96]C[-23]",FALSE)', 30.0),
        ('=SUM(INDIRECT("R1C3:R[-95]C3",FALSE))', 100.0),
        ('=COLUMNS(INDIRECT("R4",FALSE))', 18278.0),
        ('=INDIRECT("R0C1",FALSE)', "#REF!"),
        ("=SUM(INDEX(C1:C2~D1:D4,0,1,2))", 16.0),
        ("=INDEX(C1:C2~D1:D4,1,1,3)", "#REF!"),
        ('=LOOKUP(25,C1:C4,D1:D4)', 3.0),
        ("=LOOKUP(25,C1:D4)", 3.0),
        ("=LOOKUP(5,C1:D4)", "#N/A"),
        ("=SHEET(C1)", 1.0),
        ('=SHEET("LOADS")', 1.0),
        ('=SHEET("Nowhere")', "#N/A"),
        ("=SHEETS(C1)", 1.0),
        ('=ADDRESS(5,3,4,TRUE,"Week 1")', "'Week 1'!C5"),
        ("=ROWS(5)", "#VALUE!"),
        ("=XLOOKUP(4,{1,3,5},{10,30,50},0,-1)", 30.0),
        ("=XLOOKUP(4,{1,3,5},{10,30,50},0,1)", 50.0),
        ("=XLOOKUP(1,{1;3;1},{10;30;50},0,0,-1)", 50.0),
        ('=XLOOKUP("k*",{"a","kg"},{1,2},0,2)', 2.0),
        ('=XLOOKUP("k*",{"a","kg"},{1,2},0)', 0.0),
        ("=SUM(XLOOKUP(3,{1,3},{1,2;3,4}))", 6.0),
        ("=XLOOKUP(3,{1,3},{1,2,3})", "#VALUE!"),
        ("=XMATCH(3,{1,3,3},0,-1)", 3.0),
        ("=XMATCH(9,{1,3},1)", "#N/A"),
        ("=XMATCH(9,{1,3},5)", "#VALUE!"),
        ("=LET(x,1,x,x+1,x*10)", 20.0),
        ("=LET(x,2,LET(x,3,x)+x)", 5.0),
        ("=LET(C1,2,C1)", "#VALUE!"),
        ("=LET(x,2)", "#VALUE!"),
        ("=LET(x,2,y*x)", "#NAME?"),
        ("=SUM(LET(x,C1:C4,x*2))-2*SUM(C1:C4)", 0.0),
        ("=LET(r,RAND(),r=r)", True),
        ("=LET(x,{1;1;2},SUM(1/COUNTIF(x,x)))", 2.0),
        ("=LET(x,{3;1;2},SUM(XLOOKUP(x,x,x)))", 6.0),
        ("=LET(a,1,b,a+a,c,b+b,d,c+c,e,d+d,f,e+e,g,f+f,h,g+g,i,h+h,j,i+i,k,j+j,l,k+k,m,l+l,"
         "n,m+m,o,n+n,o)", "#VALUE!"),
        ("=AGGREGATE(4,6,{1,2,3}/{0,1,2})", 2.0),
        ("=AGGREGATE(4,4,{1,2,3}/{0,1,2})", "#DIV/0!"),
        ("=AGGREGATE(12,4,{1,2,9})", 2.0),
        ("=AGGREGATE(19,6,{1,2,3},2)", 2.0),
        ("=AGGREGATE(14,6,{1,2,3})", "#VALUE!"),
        ("=AGGREGATE(20,6,{1,2,3})", "#VALUE!"),
        ("=CEILING.MATH(-5.5)", -5.0),
        ("=FLOOR.MATH(-5.5)", -6.0),
        ('=NETWORKDAYS.INTL("2026-03-02","2026-03-08",8)', "#NUM!"),
        ('=NETWORKDAYS.INTL("2026-03-02","2026-03-08",2)', 5.0),
        ('=NETWORKDAYS.INTL("2026-03-02","2026-03-08","001")', "#VALUE!"),
        ('=TEXTBEFORE("a-b","-",2,FALSE,TRUE)', "a-b"),
        ('=TEXTAFTER("aXb","x",1,TRUE)', "b"),
        ('=TEXTBEFORE("a-b","-",0)', "#VALUE!"),
        ('=NUMBERVALUE("a")', "#VALUE!"),
        ('=NUMBERVALUE("1.0,5")', "#VALUE!"),
        ('=NUMBERVALUE("")', 0.0),
        ("=PERCENTILE.EXC({5},0.5)", 5.0),
        ("=QUARTILE.EXC({1,2},1)", "#NUM!"),
        ("=COUNTIF(5,5)", "#VALUE!"),
        # money
        ("=PMT(0,10,1000)", -100.0),
        ("=FV(0,10,-100)", 1000.0),
        ("=PV(0,10,-100)", 1000.0),
        ("=NPER(0,-100,1000)", 10.0),
        ("=ROUND(PMT(0.01,12,1000,0,1),4)", -87.9691),
        ("=ROUND(IRR(F1:F4),6)", "#NUM!"),
        ("=SYD(1000,100,5,6)", "#NUM!"),
        ("=ROUND(DDB(1000,100,5,5),2)", 29.6),
    ],
)  # fmt: skip
def test_edges(formula, value):
    found = result(formula, **COLUMN)
    assert found == (pytest.approx(value) if isinstance(value, float) else value)
    assert type(found) is type(value)


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("=VAR(0.1,0.1,0.1)", 0.0),
        ("=STDEV(0.1,0.1,0.1)", 0.0),
        ("=AVEDEV(0.1,0.1,0.1)", 0.0),
        ("=SLOPE({1;2;3},{0.1;0.1;0.1})", "#DIV/0!"),
        ("=CORREL({1;2;3},{0.1;0.1;0.1})", "#DIV/0!"),
        ("=CORREL({1;2;3},{0.1;0.2;0.3})", 1.0),
        ("=MOD(1E17,7)", 5.0),
        ("=MOD(1E20,3)", 1.0),
        ("=MOD(-1,1E20)", "#NUM!"),
        ("=MOD(-1E-20,7)", 0.0),
        ("=MOD(7,-3)", -2.0),
        ("=MEDIAN(1.5E308,1.7E308)", 1.6e308),
        ("=FIXED(1E15,2)", "1,000,000,000,000,000.00"),
        ("=ATAN2(-1,ROUND(-0.4,0))", math.pi),
        ('=ISNUMBER(DPRODUCT(A1:D2,"B",A5:D6))', True),
        ('=SEARCH("e","Straße")', 6.0),
        ('=SEARCH("ss","Straße")', 5.0),
        ('=SEARCH("x","ﬁx")', 2.0),
        ('=SEARCH("x","İŉx",2)', 3.0),
        ('=SEARCH("stra?e","Die Straße",2)', 5.0),
        ('=COUNTIF(E5:E6,"Stra?e")', 2.0),
        ('=TEXTJOIN(",",FALSE,"a",E1:F6,"b")', "a,,,,,,,,,Straße,,STRASE,,b"),
        ('=TEXTJOIN(",",TRUE,"a",E1:F6,"b")', "a,Straße,STRASE,b"),
        ('=TEXTJOIN(",",FALSE,E:E)', "#VALUE!"),
    ],
)
def test_results_to_the_last_bit_and_letter(formula, value):
    held = {"A1": "A", "B1": "B", "A5": "A", "A6": "none", "E5": "Straße", "E6": "STRASE"}
    found = result(formula, **held)
    assert found == value and type(found) is type(value)


@given(st.integers(-600_000, 2_900_000), st.integers(0, 86_399))
def test_the_parts_of_a_time_are_those_of_the_whole_second_that_it_shows(day, second):
    number = day + second / 86400
    told = [find(part).compute(number) for part in ("HOUR", "MINUTE", "SECOND")]
    assert told == [second // 3600, second // 60 % 60, second % 60]


def test_interest_of_payments():
    flow = {"A1": "-1000", "A2": "500", "A3": "500", "A4": "300"}
    rate = result("=IRR(A1:A4)", **flow)
    assert sum(float(v) / (1 + rate) ** n for n, v in enumerate(flow.values())) == pytest.approx(
        0, abs=1e-6
    )
    assert result("=NPV(0.1,A2:A4)", **flow) == pytest.approx(500 / 1.1 + 500 / 1.21 + 300 / 1.331)


def test_today_is_today():
    assert result("=TODAY()") == (date.today() - date(1899, 12, 30)).days


def test_cells_read_at_an_address_that_is_worked_out_are_settled_first():
    rows = {f"A{row}": f"=OFFSET(A{row},-1,0)+1" for row in range(2, 1500)}
    assert result("=A1499", A1="1", **rows) == 1499.0
    assert result('=INDIRECT("A1")', A1='=INDIRECT("Z"&99)') == "#LOOP!"


@pytest.mark.parametrize(
    ("formula", "says"),
    [
        ("=VLOKUP(1,A1:B2,2)", "There is no function VLOKUP; VLOOKUP or LOOKUP may be meant."),
        ("=AVG(A1:A3)", "There is no function AVG; AVERAGE may be meant."),
        ("=DATEDIFF(1,2)", "There is no function DATEDIFF; DATEDIF or DAYS may be meant."),
        ("=QQQQ(1)", "There is no function QQQQ."),
    ],
)
def test_what_may_be_meant_by_an_unknown_function_is_told(formula, says):
    made = workbook(Loads={"C9": formula})
    assert Calculation(made).value("Loads", Cell.parse("C9")).why == says


def test_what_is_known_elsewhere_is_none_of_ours_and_stands_for_one():
    told = tomllib.loads(Path("src/dreieck/core/functions/unknown.toml").read_text())
    names = {each.name for each in every()}
    assert not names & set(told) and {each for found in told.values() for each in found} <= names
