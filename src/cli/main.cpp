#include "cli/verbs.h"

#include <CLI/CLI.hpp>
#include <cstdio>

// The batch door: upper-prism-cli VERB FILE [options].
int main(int argc, char** argv) {
    using namespace prism::cli;
    CLI::App app{"Upper Prism: from old drawings to driven solids", "upper-prism-cli"};
    app.require_subcommand(1);
    app.set_version_flag("--version", "upper-prism-cli 0.1.0");
    Request q;
    auto verb = [&](const char* name, const char* help, int (*run)(const Request&)) {
        CLI::App* s = app.add_subcommand(name, help);
        s->add_option("FILE", q.file, "a drawing or a project (.uprism)")->required();
        s->add_flag("--json", q.json, "print one JSON object on standard output");
        s->add_option("--layout", q.layout,
                      "read this layout of the drawing (\"Model\" or a paper layout's name)");
        s->add_option("--page", q.page, "read this page, from 1")->check(CLI::Range(1, 100000));
        s->add_option("--part", q.part, "of several parts on the sheet, work on this one, from 1")
            ->check(CLI::Range(1, 1000));
        s->add_flag("--as-picture", q.page_as_picture, "take the page as a scan");
        s->add_option("--length", q.lengths,
                      "of a scan: a length known between two of its pixels, X0,Y0,X1,Y1=LENGTH; repeatable");
        s->add_option("--cut", q.cuts, "of a scan: a part that is a view, NAME=X0,Y0,X1,Y1; repeatable");
        s->add_flag("--keep-stretch", q.keep_stretch, "of a scan: one scale for both axes in any case");
        s->add_flag("--no-trace", q.no_trace, "of a scan: do not look for lines in it");
        s->add_option("--preset", q.preset, "take the choices for reading from this preset file");
        s->callback([&q, run] { q.run = run; });
        return s;
    };
    auto outputs = [&](CLI::App* s) {
        s->add_option("-o", q.output, "write the solid (.step)");
        s->add_option("--save", q.save, "write the project (.uprism)");
        s->add_option("--steps", q.steps, "take the build list from this file (JSON)");
        s->add_option(
            "--material", q.material,
            "what the part is made of, to weigh it: a name of the list that ships, or \"name = kg/m3\"");
        s->add_flag("--unproved", q.unproved,
                    "write the solid although it does not show every line of the sheet");
    };
    verb("read", "what the file holds", runRead)
        ->add_option("--keep-preset", q.keep_preset, "write the choices for reading to this preset file");
    app.get_subcommand("read")->add_flag("--entities", q.entities,
                                         "with --json: every line and text as read, and as repaired");
    CLI::App* reread =
        verb("reread", "read a revised drawing under the choices of FILE, a project", runReread);
    reread->add_option("REVISED", q.after, "the revised drawing")->required();
    reread->add_option("--save", q.save, "write the project (.uprism)");
    verb("views", "views, angle, unit, scale and ties", runViews);
    CLI::App* check = verb("check", "whether the views and dimensions agree", runCheck);
    check->add_option("--repair", q.repair,
                      "make the repairs of these kinds, KIND[,KIND], or all that are offered");
    check->add_option("--add-dimensions", q.laying,
                      "add the dimensions that the figure lacks: baseline, chain or ordinate");
    check
        ->add_option("--datum", q.datum,
                     "the end that they count from, low, high or middle: for all axes, or one each for X,Y,Z")
        ->delimiter(',');
    check->add_option("--report", q.report,
                      "write what was found, decided and proved as a page (.html or .pdf)");
    check->add_option("--save", q.save, "write the project (.uprism)");
    CLI::App* build = verb("build", "build the solid; by proposal when there are no steps", runBuild);
    outputs(build);
    build->add_flag("--complete", q.complete,
                    "keep the steps there are, and add those that are lacking to the solid that the views "
                    "determine");
    build->add_flag("--suggest", q.suggest,
                    "suggest the step after the last one of the build list; nothing is proposed for a sheet "
                    "without steps, its first step is suggested");
    CLI::App* set = verb("set", "change ledger values, solve and rebuild", runSet);
    set->add_option("CHANGES", q.changes, "name=value or name=formula")->required();
    outputs(set);
    outputs(verb("proof", "compare the solid, projected back, with the sheet", runProof));
    CLI::App* out = verb("export", "write the solid", runExport);
    out->add_option("-o", q.output, "file to write; its ending says the format: .step")->required();
    out->add_flag("--unproved", q.unproved,
                  "write the solid although it does not show every line of the sheet");
    out->add_option("--steps", q.steps, "take the build list from this file (JSON)");
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = app.exit(e);
        return code == 0 ? 0 : kUsage;
    }
    return runGuarded(q);
}
