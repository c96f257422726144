// The JSON Schema of the project file, from the descriptions of the fields.
#include "core/files/document.h"
#include "core/files/project.h"
#include "core/model/walk.h"

#include <utility>

namespace fulmox {

namespace {

class SchemaWriter : public FieldVisitor {
  public:
    // What `describe` goes over, as the schema of an object.
    template <class F> Json schema_of(const char* title, F&& describe, const char* kind = nullptr) {
        Json properties = Json::object();
        Json* outer = std::exchange(properties_, &properties);
        Json out{{"type", "object"}, {"title", title}};
        if (kind) {
            properties["kind"] = Json{{"const", kind}};
            out["required"] = Json::array({"kind"});
        }
        describe();
        out["properties"] = std::move(properties);
        properties_ = outer;
        return out;
    }

  private:
    Json* properties_ = nullptr; // of the object being described

    void on_samples(Samples&, const SamplesSpec& spec, const Place&) override {
        (*properties_)[spec.key] = Json{{"title", spec.label},
            {"description", std::string(spec.help) + " A text of numbers separated by spaces, or a list."},
            {"oneOf", {{{"type", "string"}}, {{"type", "array"}, {"items", {{"type", "number"}}},
                                                 {"maxItems", spec.most * spec.columns}}}},
            {"x-columns", spec.columns}};
    }
    void on_attachment(Attachment&, const AttachmentSpec& spec, const Place&) override {
        (*properties_)[spec.key] = Json{{"type", "string"}, {"title", spec.label}, {"description", spec.help},
            {"contentEncoding", "base64"}, {"maxLength", (spec.most + 2) / 3 * 4}};
    }
    void on_quantity(QuantityBase&, const QuantitySpec&, const Place& place) override {
        const QuantitySpec& spec = *place.written;
        std::string kind(info(place.kind).name), also;
        if (place.order) {
            kind = std::string(info(motion_kind(*place.order, false)).name) + " or " +
                   std::string(info(motion_kind(*place.order, true)).name);
            also = "; on a rotary axis " + range_text(spec.on_rotary(true));
        }
        std::string help = std::string(spec.label) + ". " + spec.help + " Permitted: " + range_text(spec) + also + ".";
        if (!spec.required) help += std::string(" May be left out: ") + spec.if_empty.words + ".";
        if (*spec.source) help += std::string(" Source: ") + spec.source + ".";
        (*properties_)[spec.key] =
            Json{{"$ref", std::string_view(spec.unit) == "1" ? "#/$defs/number" : "#/$defs/quantity"},
                {"title", spec.label}, {"description", help}, {"x-kind", kind}, {"x-unit", spec.unit}};
    }
    void on_text(std::string&, const TextSpec& spec, const Place&) override {
        (*properties_)[spec.key] = Json{{"type", "string"}, {"title", spec.label}, {"description", spec.help}};
    }
    void on_choice(ChoiceRef, const ChoiceSpec& spec, const Place&) override {
        Json keys = Json::array();
        for (const Option& o : spec.options) keys.push_back(o.key);
        (*properties_)[spec.key] = Json{{"enum", keys}, {"title", spec.label}, {"description", spec.help}};
    }
    void on_flag(bool&, const FlagSpec& spec, const Place&) override {
        (*properties_)[spec.key] = Json{{"type", "boolean"}, {"title", spec.label}, {"description", spec.help}};
    }
    void on_group(GroupRef group, const GroupSpec& spec, const Place&) override {
        (*properties_)[spec.key] = schema_of(spec.label, [&] { group.describe(*this); });
    }
    void on_list(ListRef list, const ListSpec& spec, const Place&) override {
        (*properties_)[spec.key] = Json{{"type", "array"}, {"title", spec.label}, {"maxItems", spec.most},
            {"items", schema_of(spec.item, [&] { list.describe_blank(*this); })}};
    }
    void on_variant(VariantRef variant, const GroupSpec& spec, const Place&) override {
        Json kinds = Json::array();
        for (std::size_t i = 0; i < variant.kinds().size(); ++i) {
            const Option& kind = variant.kinds()[i];
            kinds.push_back(schema_of(
                kind.label, [&] { variant.describe_blank(static_cast<int>(i), *this); }, kind.key));
        }
        (*properties_)[spec.key] = Json{{"title", spec.label}, {"oneOf", kinds}};
    }
};

} // namespace

std::string project_schema() {
    Json schema{{"$schema", "https://json-schema.org/draft/2020-12/schema"}, {"title", "Fulmox project"},
        {"description", "Generated from the field descriptions of the program. Quantities are texts as the user wrote "
                        "them, with their unit and perhaps a tolerance. Members not named here are kept."}};
    SchemaWriter writer;
    Json body = writer.schema_of("Machine", [&] { Machine{}.describe(writer); });
    Json properties{{"format", {{"const", project_format}}}, {"version", {{"type", "integer"}, {"minimum", 1}}}};
    properties.update(body["properties"]);
    schema["type"] = "object";
    schema["required"] = Json::array({"format", "version"});
    schema["properties"] = std::move(properties);
    const auto quantity = [](const Json& value) {
        Json standing_keys = Json::array();
        for (const Option& o : standings) standing_keys.push_back(o.key);
        return Json{{"oneOf", {value, {{"type", "object"}, {"required", {"value"}}, {"additionalProperties", false},
                                          {"properties", {{"value", value}, {"standing", {{"enum", standing_keys}}},
                                                             {"note", {{"type", "string"}}}}}}}}};
    };
    // a number without a unit is read in the unit that stands with the member
    const Json value{{"type", Json::array({"string", "number"})}};
    schema["$defs"] = {{"quantity", quantity(value)}, {"number", quantity(value)}};
    return schema.dump(2) + "\n";
}

} // namespace fulmox
