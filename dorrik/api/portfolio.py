"""A portfolio, of a client or of the whole firm: its properties, its map, as a table, and from a table."""

from collections.abc import Mapping
from datetime import date
from itertools import islice
from typing import Annotated

from fastapi import Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.papers import A_FILE, read_upload
from dorrik.api.portfolio_types import (
    BoundsOut,
    CellMistakeOut,
    MapCellOut,
    MapOut,
    NationLaw,
    PortfolioLineOut,
    PortfolioOut,
    PortfolioTableOut,
    StandingOut,
    StateCount,
    TableColumnOut,
    Taking,
)
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.basics.text import shown
from dorrik.core.book import intervals
from dorrik.core.inspection.records import NATIONS, TENURES
from dorrik.core.work import portfolio_table, portfolio_view
from dorrik.core.work.portfolio import Holder, Standing, State
from dorrik.core.work.portfolio_view import Bounds, Filters, Order, ViewedProperty
from dorrik.core.work.table_heads import head_row
from dorrik.office import portfolio_import
from dorrik.report import month_page, portfolio_csv
from dorrik.report.papers import Paper
from dorrik.store.database.engine import now
from dorrik.store.people import people
from dorrik.store.register import portfolio_rows, register

router = make_router("/api/portfolio", "portfolio", {**RESPONSES, 422: {"model": Problem}})

#: Properties of a page, and mistakes, sample rows and other clients' addresses that are told.
PAGE, MISTAKES, SAMPLE, ELSEWHERE = 100, 400, 12, 20

_States = Annotated[list[State] | None, Query()]
_Degrees = Annotated[float | None, Query(ge=-180, le=180, allow_inf_nan=False)]


def _viewed(request: Request, client_id: str | None) -> tuple[str, list[ViewedProperty], Mapping[str, str]]:
    """What it is the portfolio of, its properties, and which coordinates cannot be right. Raises ProblemError."""
    with work(request) as (connection, me):
        title = me.firm_name
        if client_id is not None:
            client = register.get(connection, me.firm_id, "client", client_id)
            if client is None:
                raise not_found("client")
            title = client.values.get("name") or "Client without a name"
        whole = request.app.state.portfolios.now(connection, me.firm_id, now().date())
    return title, whole.of_client(client_id), whole.doubts


@router.get("")
def page(
    request: Request, client_id: str | None = None, states: _States = None, holder: Holder | None = None,
    nation: str = "", late: bool = False, due_until: date | None = None, text: str = Query("", max_length=200),
    order: Order = "urgency", start: int = Query(0, ge=0, le=1_000_000), limit: int = Query(PAGE, ge=1, le=500),
) -> PortfolioOut:  # fmt: skip
    """Some properties of a portfolio in an order, with what the filters let through."""
    title, viewed, doubts = _viewed(request, client_id)
    rest = Filters(holder=holder, nation=nation, late=late, due_until=due_until, text=text)
    others = portfolio_view.passing(viewed, rest)
    passing = portfolio_view.passing(others, Filters(states=frozenset(states or ())))
    shown_lines = portfolio_view.in_order(passing, order)[start : start + limit]
    nations = sorted({home.nation for home in viewed if home.nation})
    return PortfolioOut(
        title=title,
        client_id=client_id,
        today=now().date(),
        lines=[_line(shown_line, doubts) for shown_line in shown_lines],
        count=len(passing),
        total=len(viewed),
        states=[StateCount(state=state, count=count) for state, count in portfolio_view.counts(others).items()],
        late=sum(one.line.first.late for one in others),
        nations=nations,
        laws=[NationLaw(nation=nation, says=_law(nation)) for nation in nations if nation in NATIONS],
        caution=intervals.CAUTION,
        unplaced=sum(home.latitude is None or home.longitude is None for home in viewed),
        doubtful=sum(home.id in doubts for home in viewed),
    )


def _line(home: ViewedProperty, doubts: Mapping[str, str]) -> PortfolioLineOut:
    return PortfolioLineOut(
        id=home.id, address=home.address, reference=home.reference, client_id=home.client_id, client=home.client,
        nation=home.nation, due_on=home.due_on, first=_standing(home.line.first),
        also=[_standing(standing) for standing in home.line.also],
        placed=home.latitude is not None and home.longitude is not None, doubt=doubts.get(home.id),
    )  # fmt: skip


def _standing(standing: Standing) -> StandingOut:
    return StandingOut.model_validate(standing, from_attributes=True)


def _law(nation: str) -> str:
    """What the law asks of a let home there, in a few words."""
    years = intervals.longest_years(TENURES[0], nation)
    copy = next((duty for duty in intervals.duties(nation) if duty.ticked_by == "copy:occupier" and duty.days), None)
    law = f"at most {years:g} years"
    return f"{law}; {copy.short} within {copy.days} days" if copy is not None else law


@router.get("/map")
def map_of(
    request: Request, client_id: str | None = None, states: _States = None, holder: Holder | None = None,
    nation: str = "", late: bool = False, due_until: date | None = None, text: str = Query("", max_length=200),
    south: _Degrees = None, north: _Degrees = None, west: _Degrees = None, east: _Degrees = None,
) -> MapOut:  # fmt: skip
    """A part of the map in cells, the whole where no part is named; what cannot be right stands on no map."""
    _, viewed, doubts = _viewed(request, client_id)
    filters = Filters(
        states=frozenset(states or ()), holder=holder, nation=nation, late=late, due_until=due_until, text=text
    )
    passing = [home for home in portfolio_view.passing(viewed, filters) if home.id not in doubts]
    whole = portfolio_view.bounds(passing)
    part = whole
    if south is not None and north is not None and west is not None and east is not None:
        part = Bounds(south, north, west, east)
    if whole is None or part is None:
        return MapOut(part=None, whole=None, cells=[])
    addresses = {home.id: home.address for home in passing}
    cells = [
        MapCellOut(
            latitude=cell.latitude, longitude=cell.longitude, count=cell.count, state=cell.state, late=cell.late,
            property_id=cell.property_id, address=addresses.get(cell.property_id, ""),
        )
        for cell in portfolio_view.cells(passing, part)
    ]  # fmt: skip
    return MapOut(part=_bounds(part), whole=_bounds(whole), cells=cells)


def _bounds(bounds: Bounds) -> BoundsOut:
    return BoundsOut.model_validate(bounds, from_attributes=True)


@router.get(".csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def as_table(request: Request, client_id: str | None = None) -> Response:
    """The portfolio as a table; what begins like a formula is written as text."""
    _, viewed, _ = _viewed(request, client_id)
    text = portfolio_csv.write(portfolio_view.in_order(viewed, "address"))
    return download("\ufeff" + text, "portfolio.csv", "text/csv")


@router.get("/{client_id}/month.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def month(request: Request, client_id: str) -> Response:
    """A landlord's page of this month: what was done, what is open at each home, what is due next."""
    today = now().date()
    with work(request) as (connection, me):
        firm = people.firm_details(connection, me.firm_id)
        done = portfolio_rows.inspected(connection, me.firm_id, client_id, today.replace(day=1), today)
    title, viewed, _ = _viewed(request, client_id)
    shown_ones = portfolio_view.in_order(viewed, "urgency")
    details = {"name": firm["name"], "phone": firm["phone"] or "", "email": firm["email"] or ""}
    return download(month_page.page(title, details, today, shown_ones, done), "month.pdf", "application/pdf")


@router.post("/{client_id}/table", openapi_extra=A_FILE)
async def take(
    request: Request,
    client_id: str,
    name: str = Query("table.csv", max_length=200),
    sheet: int = Query(0, ge=0, le=500),
    head: int | None = Query(None, ge=0, le=25_000),
    columns: str | None = Query(None, max_length=2_000),
    taking: Taking = "nothing",
) -> PortfolioTableOut:
    """A table (CSV or a workbook) as the portfolio of a client. columns: what each column is, parted by commas, nothing
    for one that is left out; guessed where it is not said. taking: nothing is taken but by saying so, and then every
    row without a mistake, or nothing at all."""
    await run_in_threadpool(_client, request, client_id)
    paper = await read_upload(request, name)
    return await run_in_threadpool(_take, request, client_id, paper, (sheet, head, columns), taking)


def _client(request: Request, client_id: str) -> None:
    with work(request, "keep the register", only_reads=True) as (connection, me):
        if register.get(connection, me.firm_id, "client", client_id) is None:
            raise not_found("client")


def _at(field: str, message: str) -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": field, "message": message}])


def _take(
    request: Request, client_id: str, paper: Paper, chosen: tuple[int, int | None, str | None], taking: Taking
) -> PortfolioTableOut:
    sheet, head, named = chosen
    if not paper.tables:
        raise _at("file", "That file holds no table. Choose a CSV file or a workbook (XLSX).")
    sheet = min(sheet, len(paper.tables) - 1)
    rows = paper.tables[sheet].rows
    head = min(head, len(rows) - 1) if head is not None else head_row(rows, portfolio_table.guess)
    columns = portfolio_table.guess(rows[head])
    if named is not None:
        columns = tuple(key or None for key in named.split(","))[: len(rows[head])]
        columns += (None,) * (len(rows[head]) - len(columns))
    problem, portfolio, taken = None, portfolio_import.NOTHING, portfolio_import.TakenPortfolio(0, 0)
    with work(request, "keep the register") as (connection, me):
        if register.get(connection, me.firm_id, "client", client_id, lock=taking != "nothing") is None:
            raise not_found("client")
        try:
            portfolio = portfolio_import.read(
                connection, me.firm_id, client_id, rows, columns, head + 1, now().date()
            )  # fmt: skip
            taken = portfolio_import.take(connection, me.firm_id, me.id, client_id, portfolio, taking)
        except register.Refused as error:
            raise _at("columns", f"Nothing was taken. {shown(str(error))}") from None
        except ValueError as error:
            if taking != "nothing":
                raise _at("columns", str(error)) from None
            problem = str(error)
    sample = [(at, row) for at, row in enumerate(rows[head + 1 :], head + 2) if any(row)]
    wrong = {mistake.row for mistake in portfolio.table.mistakes}
    first = [line for line in sample if line[0] in wrong][:SAMPLE] or sample[:SAMPLE]
    return PortfolioTableOut(
        sheets=[table.sheet for table in paper.tables],
        sheet=sheet,
        head=head,
        heads=list(rows[head]),
        columns=list(columns),
        targets=[TableColumnOut(key=column.key, label=column.label) for column in portfolio_table.COLUMNS],
        sample=[list(row) for _, row in first],
        sample_rows=[at for at, _ in first],
        rows=len(sample),
        new=len(portfolio.new),
        known=sum(bool(row.known_id) and row.row not in portfolio.elsewhere for row in portfolio.table.rows),
        different=len(portfolio.changes),
        elsewhere=[f"Row {row}: {client}" for row, client in islice(portfolio.elsewhere.items(), ELSEWHERE)],
        elsewhere_count=len(portfolio.elsewhere),
        mistakes=[
            CellMistakeOut.model_validate(mistake, from_attributes=True)
            for mistake in portfolio.table.mistakes[:MISTAKES]
        ],
        mistake_rows=len(wrong),
        cleaned=paper.cleaned,
        problem=problem,
        added=taken.added,
        changed=taken.changed,
    )  # fmt: skip
