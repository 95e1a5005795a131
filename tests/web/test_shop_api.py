from tests.support.jobs import orchard
from tests.support.server import Client, WithDatabase

DEEPER = {
    "id": "deeper",
    "key": "burial_cover_in",
    "action": "at_least",
    "value": 30.0,
    "unit": "in",
    "source_note": "County",
}


class ShopRules(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.application = cls.app()
        cls.owner = Client(cls.application, "owner@east.invalid")

    def number(self):
        return self.owner.get("/api/shop/rules").get_json()["number"]

    def put(self, rules, base=None, client=None):
        base = self.number() if base is None else base
        return (client or self.owner).send("PUT", "/api/shop/rules", {"base": base, "rules": rules})

    def test_rules_are_kept_and_new_jobs_begin_with_them(self):
        answer = self.put([DEEPER])
        self.assertEqual(answer.status_code, 200, answer.get_json())
        self.assertEqual(answer.get_json()["rules"][0]["source_note"], "County")
        made = self.owner.send("POST", "/api/jobs", {"name": "New", "edition": "2023"}).get_json()
        self.assertEqual([item["value"] for item in made["document"]["amendments"]], [30.0])

    def test_new_jobs_take_over_the_defaults_of_the_shop_and_keep_their_edition(self):
        begun = self.owner.get("/api/shop/defaults").get_json()
        self.assertEqual((begun["number"], begun["defaults"]["contractor"]), (0, ""))
        wanted = {**begun["defaults"], "contractor": "Demo Electric Shop", "edition": "2020", "ambient_c": 40.0}
        kept = self.owner.send("PUT", "/api/shop/defaults", {"base": 0, "defaults": wanted}).get_json()
        self.assertEqual((kept["number"], kept["defaults"]), (1, wanted))
        for body in (
            {"name": "New", "edition": "2023"},
            {"name": "New", "edition": "2023", "starter": "house_and_garage"},
        ):
            made = self.owner.send("POST", "/api/jobs", body).get_json()["document"]["settings"]
            told = (made["contractor"], made["ambient_c"], made["edition"])
            self.assertEqual(told, ("Demo Electric Shop", 40.0, "2023"))
        late = self.owner.send("PUT", "/api/shop/defaults", {"base": 0, "defaults": wanted})
        self.assertEqual((late.status_code, late.get_json()["error"]), (409, "stale"))
        wrong = {"base": 1, "defaults": {**wanted, "power_factor": 2.0}}
        refused = self.owner.send("PUT", "/api/shop/defaults", wrong)
        self.assertEqual((refused.status_code, refused.get_json()["issues"][0]["path"]), (422, "defaults.power_factor"))

    def test_the_shop_replaces_the_examples_by_its_own_plates(self):
        address = "/api/shop/sources"
        begun = self.owner.get(address).get_json()
        self.assertEqual((begun["number"], begun["examples"]), (0, True))
        text = "name,kind,rated_kva\nOur set,generator,11\n"
        kept = self.owner.send("PUT", address, {"base": 0, "text": text}).get_json()
        self.assertEqual((kept["number"], kept["examples"]), (1, False))
        self.assertEqual([(plate["name"], plate["rated_kva"]) for plate in kept["plates"]], [("Our set", 11.0)])
        stale = self.owner.send("PUT", address, {"base": 0, "text": text})
        self.assertEqual(stale.status_code, 409)
        wrong = self.owner.send("PUT", address, {"base": 1, "text": text + "Our set,generator,12\nX,windmill,\n"})
        self.assertEqual(wrong.status_code, 422)
        self.assertEqual([issue["path"] for issue in wrong.get_json()["issues"]], ["line 3.name", "line 4.kind"])
        west = Client(self.application, "owner@west.invalid").get(address).get_json()
        self.assertTrue(west["examples"], "another shop's list is its own")
        self.assertEqual(self.owner.get(address).get_json()["plates"], kept["plates"])

    def test_a_job_from_elsewhere_is_told_what_it_lacks(self):
        self.put([DEEPER])
        job = {**orchard(), "amendments": []}
        missing = self.owner.send("POST", "/api/shop/rules/missing", {"amendments": []}).get_json()
        self.assertEqual([rule["key"] for rule in missing["rules"]], ["burial_cover_in"])
        brought = self.owner.send("POST", "/api/shop/rules/bring-in", {"document": job}).get_json()
        self.assertEqual([item["op"] for item in brought["operations"]], ["insert"])
        amendments = [brought["operations"][0]["thing"]]
        again = self.owner.send("POST", "/api/shop/rules/missing", {"amendments": amendments}).get_json()
        self.assertEqual(again["rules"], [])
        whole = {**job, "amendments": amendments}
        nothing = self.owner.send("POST", "/api/shop/rules/bring-in", {"document": whole}).get_json()
        self.assertEqual(nothing["operations"], [])

    def test_two_people_at_once_the_later_is_told_and_nothing_is_lost(self):
        base = self.number()
        self.assertEqual(self.put([DEEPER], base).status_code, 200)
        late = self.put([], base)
        self.assertEqual((late.status_code, late.get_json()["error"]), (409, "stale"))
        self.assertEqual(len(self.owner.get("/api/shop/rules").get_json()["rules"]), 1)

    def test_bad_rules_are_told_by_field(self):
        answer = self.put([{**DEEPER, "action": "perhaps", "value": "deep"}])
        self.assertEqual(answer.status_code, 422)
        paths = {issue["path"] for issue in answer.get_json()["issues"]}
        self.assertEqual(paths, {"rules.deeper.action", "rules.deeper.value"})

    def test_readers_may_look_and_not_change(self):
        reviewer = Client(self.application, "reviewer@east.invalid")
        self.assertFalse(reviewer.get("/api/shop/rules").get_json()["may_write"])
        self.assertEqual(self.put([], client=reviewer).status_code, 403)

    def test_visitors_see_nothing(self):
        self.assertEqual(Client(self.application).get("/api/shop/rules").status_code, 401)
