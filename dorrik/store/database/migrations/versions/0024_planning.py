"""Planning: who makes visits and when, where keys are, when homes can be entered, and the plan itself."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "key_holder",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=True),
        sa.Column("address", sa.String(length=300), nullable=True),
        sa.Column("phone", sa.String(length=40), nullable=True),
        sa.Column("latitude", sa.Double(), nullable=True),
        sa.Column("longitude", sa.Double(), nullable=True),
        sa.Column("opens_at", sa.String(length=64), nullable=True),
        sa.Column("closes_at", sa.String(length=64), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_key_holder_firm_id")),
        sa.PrimaryKeyConstraint("firm_id", "id", name=op.f("pk_key_holder")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "travel_time",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("from_id", _identifier(), nullable=False),
        sa.Column("to_id", _identifier(), nullable=False),
        sa.Column("minutes", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_travel_time_firm_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("firm_id", "from_id", "to_id", name=op.f("pk_travel_time")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "visit_plan",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("settings", sa.JSON(), nullable=False),
        sa.Column("planned_at", sa.DateTime(), nullable=True),
        sa.Column("planned_s", sa.Double(), nullable=True),
        sa.Column("moved", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_visit_plan_firm_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("firm_id", name=op.f("pk_visit_plan")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "working_week",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=True),
        sa.Column("person_id", sa.String(length=36), nullable=True),
        sa.Column("by_request", sa.Boolean(), nullable=True),
        sa.Column("latitude", sa.Double(), nullable=True),
        sa.Column("longitude", sa.Double(), nullable=True),
        sa.Column("starts_at", sa.String(length=64), nullable=True),
        sa.Column("ends_at", sa.String(length=64), nullable=True),
        sa.Column("most_visits", sa.Integer(), nullable=True),
        sa.Column("most_minutes", sa.Integer(), nullable=True),
        sa.Column("not_monday", sa.Boolean(), nullable=True),
        sa.Column("not_tuesday", sa.Boolean(), nullable=True),
        sa.Column("not_wednesday", sa.Boolean(), nullable=True),
        sa.Column("not_thursday", sa.Boolean(), nullable=True),
        sa.Column("not_friday", sa.Boolean(), nullable=True),
        sa.Column("on_saturday", sa.Boolean(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_working_week_firm_id")),
        sa.PrimaryKeyConstraint("firm_id", "id", name=op.f("pk_working_week")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "day_off",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("parent_id", _identifier(), nullable=False),
        sa.Column("first_day", sa.Date(), nullable=True),
        sa.Column("last_day", sa.Date(), nullable=True),
        sa.Column("reason", sa.String(length=120), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["firm_id", "parent_id"],
            ["working_week.firm_id", "working_week.id"],
            name=op.f("fk_day_off_firm_id_parent_id"),
        ),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_day_off_firm_id")),
        sa.PrimaryKeyConstraint("firm_id", "id", name=op.f("pk_day_off")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "plan_run",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("state", sa.String(length=12), nullable=False),
        sa.Column("progress", sa.Double(), nullable=False),
        sa.Column("visits", sa.Integer(), nullable=False),
        sa.Column("stop_asked", sa.Boolean(), nullable=False),
        sa.Column("told", sa.String(length=300), nullable=True),
        sa.Column("made_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("made_by", _identifier(), nullable=False),
        sa.Column("beat_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("ended_at", mysql.DATETIME(fsp=3), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_plan_run_firm_id")),
        sa.ForeignKeyConstraint(["made_by"], ["person.id"], name=op.f("fk_plan_run_made_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_plan_run")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_plan_run_firm_id"), "plan_run", ["firm_id"], unique=False)
    op.create_table(
        "access_window",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("parent_id", _identifier(), nullable=False),
        sa.Column("access", sa.String(length=64), nullable=True),
        sa.Column("weekday", sa.String(length=64), nullable=True),
        sa.Column("from_time", sa.String(length=64), nullable=True),
        sa.Column("until_time", sa.String(length=64), nullable=True),
        sa.Column("first_day", sa.Date(), nullable=True),
        sa.Column("last_day", sa.Date(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["firm_id", "parent_id"],
            ["property.firm_id", "property.id"],
            name=op.f("fk_access_window_firm_id_parent_id"),
        ),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_access_window_firm_id")),
        sa.PrimaryKeyConstraint("firm_id", "id", name=op.f("pk_access_window")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "planned_visit",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("job_id", _identifier(), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=True),
        sa.Column("inspector_id", _identifier(), nullable=True),
        sa.Column("day", sa.Date(), nullable=True),
        sa.Column("begins_min", sa.Double(), nullable=True),
        sa.Column("minutes", sa.Double(), nullable=True),
        sa.Column("pinned", sa.Boolean(), nullable=False),
        sa.Column("why", sa.String(length=300), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("changed_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("changed_by", _identifier(), nullable=True),
        sa.ForeignKeyConstraint(["changed_by"], ["person.id"], name=op.f("fk_planned_visit_changed_by")),
        sa.ForeignKeyConstraint(
            ["firm_id", "job_id"], ["job.firm_id", "job.id"], name=op.f("fk_planned_visit_firm_id_job_id")
        ),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_planned_visit_firm_id")),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_planned_visit_inspection_id")),
        sa.PrimaryKeyConstraint("firm_id", "id", name=op.f("pk_planned_visit")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_planned_visit_firm_id_job_id", "planned_visit", ["firm_id", "job_id"], unique=False)
    op.create_index(op.f("ix_planned_visit_inspection_id"), "planned_visit", ["inspection_id"], unique=False)
    op.add_column("job", sa.Column("booked_with", sa.String(length=36), nullable=True))
    op.add_column("job", sa.Column("last_day", sa.Date(), nullable=True))
    op.add_column("job", sa.Column("visit_min", sa.Integer(), nullable=True))
    op.add_column("job", sa.Column("spent_min", sa.Integer(), nullable=True))
    op.add_column("property", sa.Column("key_holder_id", sa.String(length=36), nullable=True))
    op.add_column("property", sa.Column("reference", sa.String(length=60), nullable=True))
    op.add_column("property", sa.Column("inspected_on", sa.Date(), nullable=True))
    op.add_column("property", sa.Column("due_on", sa.Date(), nullable=True))
    op.add_column("property", sa.Column("latitude", sa.Double(), nullable=True))
    op.add_column("property", sa.Column("longitude", sa.Double(), nullable=True))


def downgrade() -> None:
    op.drop_column("property", "longitude")
    op.drop_column("property", "latitude")
    op.drop_column("property", "due_on")
    op.drop_column("property", "inspected_on")
    op.drop_column("property", "reference")
    op.drop_column("property", "key_holder_id")
    op.drop_column("job", "spent_min")
    op.drop_column("job", "visit_min")
    op.drop_column("job", "last_day")
    op.drop_column("job", "booked_with")
    op.drop_table("planned_visit")
    op.drop_table("access_window")
    op.drop_table("plan_run")
    op.drop_table("day_off")
    op.drop_table("working_week")
    op.drop_table("visit_plan")
    op.drop_table("travel_time")
    op.drop_table("key_holder")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
