import time, json, collections
def top(p, n=28):
    prof=p["profile"]; nodes={x["id"]:x for x in prof["nodes"]}
    dt=prof["timeDeltas"]; self=collections.Counter(); byurl=collections.Counter()
    for s,d in zip(prof["samples"],dt):
        c=nodes[s]["callFrame"]; self[(c["functionName"],c["url"].split("/")[-1],c["lineNumber"],c["columnNumber"])]+=d; byurl[c["url"].split("/")[-1] or c["functionName"]]+=d
    for k,v in self.most_common(n): print(round(v/1000),"ms",k)
    print(byurl.most_common(12))
def test_prof(signed_in, server):
    page=signed_in(); cdp=page.context.new_cdp_session(page); cdp.send("Profiler.enable")
    page.goto(server.base); page.get_by_role("heading",name="In hand").wait_for()
    cdp.send("Profiler.start"); t=time.time()
    page.goto(server.base); page.get_by_role("heading",name="In hand").wait_for(); print("reload home",time.time()-t)
    top(cdp.send("Profiler.stop"))
    print(page.evaluate("JSON.stringify(performance.getEntriesByType('navigation')[0].toJSON())"), page.evaluate("performance.getEntriesByType('paint').map(p=>p.startTime)"))
