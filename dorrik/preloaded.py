"""What a process that serves is made of, imported once: the processes are forked from one that has it (`serving`)."""

import gc

import httptools
import pymysql
import uvicorn
import uvloop
from sqlalchemy.dialects.mysql import pymysql as dialect

from dorrik import processes, serving
from dorrik.api import app
from dorrik.store.inspections import garbage_collection

__all__ = ["app", "dialect", "httptools", "processes", "pymysql", "serving", "uvicorn", "uvloop"]

# What is here stays: it is never looked through for garbage, and its pages stay shared between the processes.
garbage_collection.sets_aside = True
garbage_collection.set_aside()
# A judgement makes tens of thousands of small things and no circles: looking through them every 700 took a fifth of it.
gc.set_threshold(20_000, 20, 20)
